import { sql } from 'kysely'
import type { Context } from './registry'
import { hasRole } from './actor'

/** Everyone who works at the school. */
export const staffRoles = ['administrator', 'head', 'office', 'records', 'teacher'] as const

/** Whether the actor teaches the class on today's date. */
export function teachesClass(context: Context, classId: string): Promise<boolean> {
  return teachesClasses(context, [classId])
}

/** Whether the actor teaches every one of some classes. */
export async function teachesClasses(
  { db, actor, today }: Context,
  classIds: readonly string[],
): Promise<boolean> {
  if (!hasRole(actor, 'teacher')) return false
  const own = await db
    .selectFrom('class_teacher')
    .select('class_id')
    .distinct()
    .where('class_id', 'in', classIds)
    .where('staff_id', '=', actor.personId)
    .where(sql<boolean>`period @> ${today}::date`)
    .execute()
  return own.length === new Set(classIds).size
}

/** Whether a class is there, in the actor's school. */
export async function classExists({ db }: Context, classId: string): Promise<boolean> {
  return (
    (await db.selectFrom('class').select('id').where('id', '=', classId).executeTakeFirst()) !== undefined
  )
}

/** Whether the actor teaches the student in any class or homeroom today. */
export async function teachesStudent({ db, actor, today }: Context, studentId: string): Promise<boolean> {
  if (!hasRole(actor, 'teacher')) return false
  const { rows } = await sql`
    select 1 from class_member m join class_teacher t using (school_id, class_id)
    where m.student_id = ${studentId} and t.staff_id = ${actor.personId} and m.period @> ${today}::date and t.period @> ${today}::date
    union all
    select 1 from homeroom_member m join homeroom_teacher t using (school_id, homeroom_id)
    where m.student_id = ${studentId} and t.staff_id = ${actor.personId} and m.period @> ${today}::date and t.period @> ${today}::date
    limit 1`.execute(db)
  return rows.length > 0
}

/** Whether a student is there, in the actor's school. */
export async function studentExists({ db }: Context, studentId: string): Promise<boolean> {
  return (
    (await db.selectFrom('student').select('id').where('id', '=', studentId).executeTakeFirst()) !== undefined
  )
}
