import { sql, type Transaction } from 'kysely'
import type { ScoredQuestion, Sheet } from '@/core/assessment/findings'
import type { Tables } from '@/db/tables'

/** Questions in order. */
export async function loadQuestions(
  db: Transaction<Tables>,
  assessmentId: string,
): Promise<readonly (ScoredQuestion & { page: number | null })[]> {
  const rows = await db
    .selectFrom('question')
    .selectAll()
    .where('assessmentId', '=', assessmentId)
    .orderBy('position')
    .execute()
  return rows.map((q) => ({
    id: q.id,
    position: q.position,
    key: q.key,
    choices: q.choices,
    points: Number(q.points).toString(),
    standardId: q.standardId,
    page: q.page,
  }))
}

export interface RollSheet extends Sheet {
  readonly name: string
  readonly classId: string
  readonly className: string
  readonly answered: boolean
  /** 0 where no answers were ever typed. */
  readonly version: number
  readonly changedBy: string | null
}

/**
 * Everyone in the assessment's classes on the day it was given, once, in name order, with their answers.
 * @param studentIds asks for these students' sheets alone
 */
export async function loadSheets(
  db: Transaction<Tables>,
  assessmentId: string,
  studentIds?: readonly string[],
): Promise<readonly RollSheet[]> {
  const { rows } = await sql<{
    studentId: string
    name: string
    classId: string
    className: string
    version: number | null
    answered: boolean
    changedBy: string | null
    answers: Record<string, string> | null
  }>`
    select * from (
      select distinct on (st.id) st.id as student_id, st.sort_name as name, st.number, c.id as class_id, c.name as class_name, s.version,
        coalesce(s.answered, false) as answered, s.changed_by,
        (select jsonb_object_agg(x.question_id, x.choice) from answer x
          where x.school_id = st.school_id and x.assessment_id = a.id and x.student_id = st.id) as answers
      from assessment a
      join assessment_class ac on ac.school_id = a.school_id and ac.assessment_id = a.id
      join class c on c.school_id = ac.school_id and c.id = ac.class_id
      join class_member m on m.school_id = c.school_id and m.class_id = c.id
      join student st on st.school_id = m.school_id and st.id = m.student_id
      left join answer_sheet s on s.school_id = a.school_id and s.assessment_id = a.id and s.student_id = st.id
      where a.id = ${assessmentId} and (m.period @> a.given_on or s.answered)
        and (${studentIds ?? null}::uuid[] is null or st.id = any(${studentIds ?? null}::uuid[]))
      order by st.id, m.period @> a.given_on desc, lower(m.period) desc
    ) one order by class_name, name, number`.execute(db)
  return rows.map((r) => ({
    studentId: r.studentId,
    name: r.name,
    classId: r.classId,
    className: r.className,
    answered: r.answered,
    version: r.version ?? 0,
    changedBy: r.changedBy,
    answers: new Map(Object.entries(r.answers ?? {})),
  }))
}
