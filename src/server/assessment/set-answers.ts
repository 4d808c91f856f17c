import { sql } from 'kysely'
import { z } from 'zod'
import { answerInput, schemasOf } from '@/core/assessment/inputs'
import { kindOf } from '@/core/assessment/kinds'
import { hundredths } from '@/core/marks/rational'
import { limits } from '@/core/limits'
import type { Context } from '@/server/platform/context'
import { conflict, type Standing } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { defineWrite, type Cell } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { loadQuestions, loadRoll, type LoadedQuestion, type RollAttempt } from './load-assessment'
import { enterAllAnswers, enterAnswers, ownClassesOf } from './rights'
import { scoreResponses } from './score'
import { refuse, refuseField } from './messages'

type Scope = { assessmentId: string }
type Key = { studentId: string }
type Answer = z.infer<typeof answerInput>
/** What was answered to each question, in the order of the key; null where the student has no answers at all. */
type Answers = Answer[] | null

const answers = z.array(answerInput).min(1).max(limits.questions).nullable()

const answersOf = (questions: readonly LoadedQuestion[], { responses, byHand }: RollAttempt): Answer[] =>
  questions.map((q) => ({
    questionId: q.id,
    value: (responses.get(q.id)?.value ?? null) as Answer['value'],
    points: byHand.get(q.id) ?? null,
  }))

async function saved({ db }: Context, { assessmentId }: Scope, keys: readonly Key[]) {
  const [questions, roll] = await Promise.all([
    loadQuestions(db, assessmentId),
    loadRoll(
      db,
      assessmentId,
      keys.map((k) => k.studentId),
    ),
  ])
  const standing = roll.map((attempt): Standing<Key, Answers> => ({
    key: { studentId: attempt.studentId },
    value: attempt.answered ? answersOf(questions, attempt) : null,
    version: attempt.version,
    by: attempt.changedBy ?? '',
  }))
  return { questions, standing, classOf: new Map(roll.map((s) => [s.studentId, s.classId])) }
}

/** Refuses students of classes that somebody else gives it to. */
async function checkOwnStudents(
  context: Context,
  scope: Scope,
  classOf: ReadonlyMap<string, string>,
): Promise<void> {
  if (await context.may(enterAllAnswers, scope)) return
  const own = await ownClassesOf(context, scope.assessmentId)
  if ([...classOf.values()].some((classId) => !own.has(classId))) throw refuse('notYourStudent', {})
}

/** Refuses what cannot be an answer to this question. */
function checkAnswer(
  { kind: name, content, position, points: most }: LoadedQuestion,
  { value, points }: Answer,
): void {
  const kind = kindOf(name)
  if (points !== null && !kind.byHand) throw refuseField('answers', 'pointsByKey', { position })
  if (points !== null && hundredths(points) > hundredths(most))
    throw refuseField('answers', 'overPoints', { position, points, most })
  if (value === null) {
    if (points !== null) throw refuseField('answers', 'pointsWithout', { position })
    return
  }
  const read = schemasOf(name).response.safeParse(value)
  if (!read.success)
    throw refuseField('answers', 'notAnAnswer', { position, problem: read.error.issues[0]?.message ?? '' })
  const problem = kind.misfit(content, read.data)
  if (problem !== undefined) throw refuseField('answers', 'misfit', { position, problem })
}

/**
 * The answers name their questions, so that a key whose order has changed since takes them where they belong; one
 * that has other questions now is a conflict.
 */
async function check(context: Context, scope: Scope, cells: readonly Cell<Key, Answers>[]): Promise<void> {
  // Held until the end, so that the key does not change under the answers.
  await context.db
    .selectFrom('assessment')
    .select('id')
    .where('id', '=', scope.assessmentId)
    .forShare()
    .execute()
  const { questions, standing, classOf } = await saved(
    context,
    scope,
    cells.map((c) => c.key),
  )
  await checkOwnStudents(context, scope, classOf)
  const onRoll = new Map(standing.map((s) => [s.key.studentId, s]))
  const byId = new Map(questions.map((q) => [q.id, q]))
  for (const { key, value, expectedVersion } of cells) {
    if (!onRoll.has(key.studentId)) throw refuse('notOnRoll', {})
    if (value === null) {
      if (expectedVersion === 0) throw refuseField('answers', 'noAnswers', {})
      continue
    }
    const named = new Set(value.map((a) => a.questionId))
    if (named.size !== questions.length || questions.some((q) => !named.has(q.id)))
      throw conflict('The answer key was changed while you were typing. Check these answers again.', standing)
    for (const answer of value) {
      const question = byId.get(answer.questionId)
      if (question) checkAnswer(question, answer)
    }
  }
}

/**
 * Keeps the responses of some students as they were typed, and the points that were typed with them. A written answer
 * whose text is kept already keeps it: on paper there is none to type.
 */
async function keepResponses(
  context: Context,
  { assessmentId }: Scope,
  cells: readonly Cell<Key, Answers>[],
): Promise<void> {
  const { db, actor } = context
  const students = cells.map((c) => c.key.studentId)
  const rows = cells.flatMap(({ key, value }) =>
    (value ?? []).flatMap((answer) =>
      answer.value === null
        ? []
        : [
            {
              student_id: key.studentId,
              question_id: answer.questionId,
              value: answer.value,
              points: answer.points,
            },
          ],
    ),
  )
  const given = sql`jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as g(student_id uuid, question_id uuid, value jsonb, points numeric)`
  const own = sql`t.school_id = ${actor.schoolId} and t.assessment_id = ${assessmentId} and t.attempt = 1 and t.student_id = any(${students}::uuid[])`
  const among = sql`g.student_id = t.student_id and g.question_id = t.question_id`
  await sql`delete from response_points t where ${own} and (
      (t.source = 'key' and not exists (select 1 from ${given} where ${among}))
      or (t.source = 'hand' and not exists (select 1 from ${given} where ${among} and g.points is not null)))`.execute(
    db,
  )
  await sql`delete from response t where ${own} and not exists (select 1 from ${given} where ${among})`.execute(
    db,
  )
  if (rows.length === 0) return
  await sql`insert into response as t (school_id, assessment_id, student_id, attempt, question_id, value)
    select ${actor.schoolId}, ${assessmentId}, g.student_id, 1, g.question_id, g.value from ${given}
    on conflict (school_id, assessment_id, student_id, attempt, question_id) do update set value = excluded.value
      where t.value is distinct from excluded.value and excluded.value <> '""'::jsonb`.execute(db)
  await sql`insert into response_points as t (school_id, assessment_id, student_id, attempt, question_id, source, points)
    select ${actor.schoolId}, ${assessmentId}, g.student_id, 1, g.question_id, 'hand', g.points from ${given} where g.points is not null
    on conflict (school_id, assessment_id, student_id, attempt, question_id, source) do update set points = excluded.points
      where t.points is distinct from excluded.points`.execute(db)
  await scoreResponses(context, assessmentId, { studentIds: students })
}

/**
 * Keeps students' answers; the scores follow at once. Null removes a student's answers, as if the student had not
 * been there; the attempt stays, so that its version goes on.
 */
export const setAnswers = defineWrite<Scope, Key, Answers>({
  table: 'attempt',
  what: "this student's answers",
  scope: z.object({ assessmentId: id }),
  key: z.object({ studentId: id }),
  value: answers,
  right: enterAnswers,
  keyColumns: ({ assessmentId }, { studentId }) => ({ assessmentId, studentId, number: 1 }),
  columns: (value) => ({ state: value === null ? 'taken back' : 'handed in' }),
  keyOf: (row) => ({ studentId: row.studentId as string }),
  valueOf: () => null,
  check,
  load: async (context, scope, keys) => (await saved(context, scope, keys)).standing,
  after: keepResponses,
  topics: async (context, { assessmentId }) => {
    await assessmentChanged(context, assessmentId)
    return []
  },
})
