import type { Context } from '@/server/platform/context'
import { refuse } from './messages'

/** Refuses what is for somebody who was never in the class. */
export async function checkMembers(
  { db }: Context,
  classId: string,
  cells: readonly { readonly key: { readonly studentId: string } }[],
): Promise<void> {
  const studentIds = [...new Set(cells.map((c) => c.key.studentId))]
  const members = await db
    .selectFrom('classMember')
    .select('studentId')
    .distinct()
    .where('classId', '=', classId)
    .where('studentId', 'in', studentIds)
    .execute()
  if (members.length < studentIds.length) throw refuse('notInClass', {})
}
