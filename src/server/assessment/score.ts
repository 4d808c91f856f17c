import { sql } from 'kysely'
import type { Keyed } from '@/core/assessment/kinds'
import { keyPoints } from '@/core/assessment/scoring'
import type { Context } from '@/server/platform/context'

/** Which responses of an assessment are scored: those of some students, or those to some questions. */
export interface Scored {
  readonly studentIds?: readonly string[]
  readonly questionIds?: readonly string[]
}

/**
 * Works out the points that the key gives and keeps them, in the transaction that changed responses or the key. Each
 * different response is scored once, and all are written in one statement, for thirty students as for three thousand.
 */
export async function scoreResponses(
  { db, actor }: Context,
  assessmentId: string,
  { studentIds, questionIds }: Scored,
): Promise<void> {
  const among = sql`r.assessment_id = ${assessmentId}
    and (${studentIds ?? null}::uuid[] is null or r.student_id = any(${studentIds ?? null}::uuid[]))
    and (${questionIds ?? null}::uuid[] is null or r.question_id = any(${questionIds ?? null}::uuid[]))`
  const { rows } = await sql<
    Keyed & { questionId: string; value: unknown; points: string; fromVersion: number }
  >`
    select q.id as question_id, v.value, q.kind, q.content, q.points::text, q.from_version
    from (select distinct r.question_id, r.value from response r where ${among}) v
    join asked_question q on q.assessment_id = ${assessmentId} and q.id = v.question_id`.execute(db)
  const scored = rows.map((row) => ({
    question_id: row.questionId,
    value: row.value,
    points: keyPoints(row, row.value),
    key_version: row.fromVersion,
  }))
  const unkeyed = [...new Set(scored.filter((s) => s.points === undefined).map((s) => s.question_id))]
  const given = scored.flatMap((s) => (s.points === undefined ? [] : [{ ...s, points: s.points / 100 }]))
  if (unkeyed.length > 0)
    await sql`delete from response_points r where r.source = 'key' and ${among} and r.question_id = any(${unkeyed}::uuid[])`.execute(
      db,
    )
  if (given.length > 0)
    await sql`
      insert into response_points as p (school_id, assessment_id, student_id, attempt, question_id, source, points, key_version)
      select ${actor.schoolId}, r.assessment_id, r.student_id, r.attempt, r.question_id, 'key', s.points, s.key_version
      from jsonb_to_recordset(${JSON.stringify(given)}::jsonb) as s(question_id uuid, value jsonb, points numeric, key_version integer)
      join response r on ${among} and r.question_id = s.question_id and r.value = s.value
      on conflict (school_id, assessment_id, student_id, attempt, question_id, source)
        do update set points = excluded.points, key_version = excluded.key_version
        where (p.points, p.key_version) is distinct from (excluded.points, excluded.key_version)`.execute(db)
}
