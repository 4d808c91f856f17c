import { sql, type Kysely } from 'kysely'

/** A student's answers can be taken away again; the sheet stays, so that its version goes on. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table answer_sheet add column answered boolean not null default true`.execute(db)
  await sql`create or replace view assessment_score with (security_invoker = true) as
    select s.school_id, s.assessment_id, s.student_id,
      coalesce(sum(q.points) filter (where a.choice = q.key), 0) as points,
      sum(q.points) as max_points, s.version, s.changed_at, s.changed_by
    from answer_sheet s
    join question q on q.school_id = s.school_id and q.assessment_id = s.assessment_id
    left join answer a on a.school_id = s.school_id and a.assessment_id = s.assessment_id and a.student_id = s.student_id and a.question_id = q.id
    where s.answered
    group by s.school_id, s.assessment_id, s.student_id`.execute(db)
}
