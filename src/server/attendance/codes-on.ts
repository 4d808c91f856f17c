import type { Context } from '@/server/platform/context'
import { gather } from '@/server/platform/gather'

/** The attendance codes in use on a date, in the order of their set; none between two sets. */
export function codesOn(context: Context, date: string) {
  const codes = context.db
    .selectFrom('attendanceCode as c')
    .innerJoin('attendanceCodeSet as s', 's.id', 'c.setId')
    .select(['c.id', 'c.code', 'c.label', 'c.meaning', 'c.needsMinutes', 'c.needsNote', 'c.officeOnly'])
    .where('s.firstDay', '<=', date)
    .where((eb) => eb.or([eb('s.lastDay', 'is', null), eb('s.lastDay', '>=', date)]))
    .orderBy('c.position')
  return gather(context, codes)
}
