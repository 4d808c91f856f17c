import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { enrolledUntil } from '@/server/school/facts'

interface LastAndFirst {
  readonly from: { readonly lastDay: string }
  readonly to: { readonly firstDay: string }
}

/** Puts the students of the old classes into the new ones, those who are enrolled on the first day. */
export async function bringStudents(
  { db, actor }: Context,
  pairs: readonly { readonly from: string; readonly to: string }[],
  { from, to }: LastAndFirst,
): Promise<void> {
  await sql`with joined as (
      insert into class_member (school_id, class_id, student_id, period)
      select distinct ${actor.schoolId}::uuid, p.new_id, m.student_id, daterange(${to.firstDay}::date, ${enrolledUntil(sql.ref('m.student_id'), to.firstDay)})
      from unnest(${pairs.map((p) => p.from)}::uuid[], ${pairs.map((p) => p.to)}::uuid[]) p(old_id, new_id)
        join class_member m on m.class_id = p.old_id and m.period @> ${from.lastDay}::date
      where exists (select 1 from enrolment e where e.student_id = m.student_id and e.period @> ${to.firstDay}::date)
      returning student_id)
    update student set roll_version = nextval('kedge_version') where id in (select student_id from joined)`.execute(
    db,
  )
}

/** Ends the memberships in classes that go on without their students, with the day before the term begins. */
export async function leaveStudents(
  { db }: Context,
  classIds: readonly string[],
  firstDay: string,
): Promise<void> {
  await sql`delete from class_member where class_id = any(${classIds}::uuid[]) and lower(period) >= ${firstDay}::date`.execute(
    db,
  )
  await sql`with ended as (
      update class_member set period = daterange(lower(period), ${firstDay}::date)
      where class_id = any(${classIds}::uuid[]) and period @> ${firstDay}::date returning student_id)
    update student set roll_version = nextval('kedge_version') where id in (select student_id from ended)`.execute(
    db,
  )
}

/**
 * Puts the students of some homerooms into a new class, from a day on.
 * @returns how many
 */
export async function joinFromHomerooms(
  { db, actor }: Context,
  classId: string,
  homeroomIds: readonly string[],
  from: string,
): Promise<number> {
  if (homeroomIds.length === 0) return 0
  const joined = await sql`with joined as (
      insert into class_member (school_id, class_id, student_id, period)
      select ${actor.schoolId}, ${classId}, m.student_id,
        daterange(${from}::date, ${enrolledUntil(sql.ref('m.student_id'), from)})
      from homeroom_member m where m.homeroom_id = any(${homeroomIds}::uuid[]) and m.period @> ${from}::date
      on conflict do nothing returning student_id)
    update student set roll_version = nextval('kedge_version') where id in (select student_id from joined) returning id`.execute(
    db,
  )
  return joined.rows.length
}
