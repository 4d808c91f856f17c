import { usualThreshold } from '@/core/attendance/inputs'
import type { Context } from '@/server/platform/context'

/** The percentage below which attendance is pointed out, as the school has set it. */
export async function attendanceThreshold({ db }: Context): Promise<number> {
  const saved = await db.selectFrom('schoolSetting').select('attendanceThreshold').executeTakeFirst()
  return saved?.attendanceThreshold ?? usualThreshold
}
