import { sql } from 'kysely'
import { hasRole } from '@/server/platform/actor'
import type { Context } from '@/server/platform/registry'

/** Its owner, and everyone who teaches one of its classes. */
async function ownAssessment({ db, actor, today }: Context, assessmentId: string): Promise<boolean> {
  const { rows } = await sql<{ own: boolean }>`
    select a.owner_id = ${actor.personId} or exists (
      select 1 from assessment_class ac join class_teacher t on t.school_id = ac.school_id and t.class_id = ac.class_id
      where ac.assessment_id = a.id and t.staff_id = ${actor.personId} and t.period @> ${today}::date) as own
    from assessment a where a.id = ${assessmentId}`.execute(db)
  return rows[0]?.own ?? false
}

const there = async ({ db }: Context, assessmentId: string) =>
  (await db.selectFrom('assessment').select('id').where('id', '=', assessmentId).executeTakeFirst()) !==
  undefined

/** Teachers see their own; the head sees all. */
export async function maySeeAssessment(
  context: Context,
  { assessmentId }: { assessmentId: string },
): Promise<boolean> {
  if (hasRole(context.actor, 'administrator', 'head')) return there(context, assessmentId)
  return hasRole(context.actor, 'teacher') && ownAssessment(context, assessmentId)
}

/** Only those whose assessment it is change it. */
export async function mayEditAssessment(
  context: Context,
  { assessmentId }: { assessmentId: string },
): Promise<boolean> {
  return hasRole(context.actor, 'teacher') && ownAssessment(context, assessmentId)
}
