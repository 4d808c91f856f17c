import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { isTeacherOf } from '@/server/school/facts'
import { refuseField } from './messages'

export interface CourseOf {
  readonly subjectId: string
  /** The one year group of the classes; none where they are of several. */
  readonly yearGroupId: string | null
}

/** The one subject of some classes that the actor teaches, and their year group. */
export async function courseOf(context: Context, classIds: readonly string[]): Promise<CourseOf> {
  const { db, actor, today } = context
  const own = await db
    .selectFrom('class as c')
    .innerJoin('course as k', 'k.id', 'c.courseId')
    .select(['c.id', 'k.subjectId', 'k.yearGroupId'])
    .where('c.id', 'in', classIds)
    .where(isTeacherOf(sql.ref('c.id'), actor.staffId, today))
    .execute()
  if (own.length < classIds.length) throw refuseField('classIds', 'notOwnClass', {})
  const subjects = [...new Set(own.map((c) => c.subjectId))]
  const [subject] = subjects
  if (subject === undefined || subjects.length > 1) throw refuseField('classIds', 'severalSubjects', {})
  const groups = [...new Set(own.map((c) => c.yearGroupId))]
  return { subjectId: subject, yearGroupId: groups.length === 1 ? (groups[0] ?? null) : null }
}
