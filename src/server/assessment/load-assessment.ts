import { sql, type Transaction } from 'kysely'
import type { ScoredQuestion, Sheet } from '@/core/assessment/findings'
import type { Tables } from '@/db/tables'

/** The topic of an assessment: its key and its answers. */
export const assessmentTopic = (assessmentId: string) => `assessment:${assessmentId}`

/** Questions in order. */
export async function loadQuestions(
  db: Transaction<Tables>,
  assessmentId: string,
): Promise<readonly (ScoredQuestion & { page: number | null })[]> {
  const rows = await db
    .selectFrom('question')
    .selectAll()
    .where('assessment_id', '=', assessmentId)
    .orderBy('position')
    .execute()
  return rows.map((q) => ({
    id: q.id,
    position: q.position,
    key: q.key,
    choices: q.choices,
    points: Number(q.points).toString(),
    standardId: q.standard_id,
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
 * Everyone in the assessment's classes on the day it was given, in name order, with their answers.
 * @param studentId asks for this student's sheet alone
 */
export async function loadSheets(
  db: Transaction<Tables>,
  assessmentId: string,
  studentId?: string,
): Promise<readonly RollSheet[]> {
  const { rows } = await sql<{
    student_id: string
    name: string
    class_id: string
    class_name: string
    version: number | null
    answered: boolean
    changed_by: string | null
    answers: Record<string, string> | null
  }>`
    select st.id as student_id, st.sort_name as name, c.id as class_id, c.name as class_name, s.version, coalesce(s.answered, false) as answered, s.changed_by,
      (select jsonb_object_agg(x.question_id, x.choice) from answer x
        where x.school_id = st.school_id and x.assessment_id = a.id and x.student_id = st.id) as answers
    from assessment a
    join assessment_class ac on ac.school_id = a.school_id and ac.assessment_id = a.id
    join class c on c.school_id = ac.school_id and c.id = ac.class_id
    join class_member m on m.school_id = c.school_id and m.class_id = c.id
    join student st on st.school_id = m.school_id and st.id = m.student_id
    left join answer_sheet s on s.school_id = a.school_id and s.assessment_id = a.id and s.student_id = st.id
    where a.id = ${assessmentId} and (m.period @> a.given_on or s.answered)
      and (${studentId ?? null}::uuid is null or st.id = ${studentId ?? null})
    order by c.name, st.sort_name, st.number`.execute(db)
  return rows.map((r) => ({
    studentId: r.student_id,
    name: r.name,
    classId: r.class_id,
    className: r.class_name,
    answered: r.answered,
    version: r.version ?? 0,
    changedBy: r.changed_by,
    answers: new Map(Object.entries(r.answers ?? {})),
  }))
}
