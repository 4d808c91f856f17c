import { z } from 'zod'
import { choiceLetters } from '@/core/assessment/answer-key'
import { limits } from '@/core/limits'
import type { Context } from '@/server/platform/context'
import { conflict, type Standing } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { defineWrite, type Cell } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { loadQuestions, loadSheets } from './load-assessment'
import { editAssessment } from './rights'
import { refuse, refuseField } from './messages'

type Scope = { assessmentId: string }
type Key = { studentId: string }
/** What was chosen in each question, in the order of the key; null where the student has no answers at all. */
type Answers = { questionId: string; choice: string | null }[] | null

const answers = z
  .array(
    z.object({
      questionId: id,
      choice: z
        .string()
        .regex(/^[A-J]$/)
        .nullable(),
    }),
  )
  .min(1)
  .max(limits.questions)
  .nullable()

async function saved({ db }: Context, { assessmentId }: Scope, keys: readonly Key[]) {
  const [questions, sheets] = await Promise.all([
    loadQuestions(db, assessmentId),
    loadSheets(
      db,
      assessmentId,
      keys.map((k) => k.studentId),
    ),
  ])
  const standing = sheets.map((sheet): Standing<Key, Answers> => ({
    key: { studentId: sheet.studentId },
    value: sheet.answered
      ? questions.map((q) => ({ questionId: q.id, choice: sheet.answers.get(q.id) ?? null }))
      : null,
    version: sheet.version,
    by: sheet.changedBy ?? '',
  }))
  return { questions, standing }
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
  const { questions, standing } = await saved(
    context,
    scope,
    cells.map((c) => c.key),
  )
  const onRoll = new Map(standing.map((s) => [s.key.studentId, s]))
  const byId = new Map(questions.map((q) => [q.id, q]))
  for (const { key, value, expectedVersion } of cells) {
    if (!onRoll.has(key.studentId)) throw refuse('notOnRoll', {})
    if (value === null) {
      if (expectedVersion === 0) throw refuseField('letters', 'noAnswers', {})
      continue
    }
    const named = new Set(value.map((a) => a.questionId))
    if (named.size !== questions.length || questions.some((q) => !named.has(q.id)))
      throw conflict('The answer key was changed while you were typing. Check these answers again.', standing)
    for (const { questionId, choice } of value) {
      const question = byId.get(questionId)
      if (question && choice !== null && choiceLetters.indexOf(choice) >= question.choices)
        throw refuseField('letters', 'notAChoice', { position: question.position, letter: choice })
    }
  }
}

async function keepChoices(
  { db, actor }: Context,
  { assessmentId }: Scope,
  cells: readonly Cell<Key, Answers>[],
): Promise<void> {
  const rows = cells.flatMap(({ key, value }) =>
    (value ?? []).flatMap(({ questionId, choice }) =>
      choice === null
        ? []
        : [{ schoolId: actor.schoolId, assessmentId, studentId: key.studentId, questionId, choice }],
    ),
  )
  const kept = new Set(rows.map((r) => `${r.studentId} ${r.questionId}`))
  const students = cells.map((c) => c.key.studentId)
  const before = await db
    .selectFrom('answer')
    .select(['studentId', 'questionId'])
    .where('assessmentId', '=', assessmentId)
    .where('studentId', 'in', students)
    .execute()
  const gone = before.filter((a) => !kept.has(`${a.studentId} ${a.questionId}`))
  if (gone.length > 0)
    await db
      .deleteFrom('answer')
      .where('assessmentId', '=', assessmentId)
      .where((eb) => eb.or(gone.map((a) => eb.and({ studentId: a.studentId, questionId: a.questionId }))))
      .execute()
  if (rows.length === 0) return
  await db
    .insertInto('answer')
    .values(rows)
    .onConflict((c) =>
      c
        .columns(['schoolId', 'assessmentId', 'studentId', 'questionId'])
        .doUpdateSet((eb) => ({ choice: eb.ref('excluded.choice') })),
    )
    .execute()
}

/**
 * Keeps students' answers; the scores follow at once. Null removes a student's answers, as if the student had not
 * been there; the sheet stays, so that its version goes on.
 */
export const setAnswers = defineWrite<Scope, Key, Answers>({
  table: 'answerSheet',
  what: "this student's answers",
  scope: z.object({ assessmentId: id }),
  key: z.object({ studentId: id }),
  value: answers,
  right: editAssessment,
  keyColumns: ({ assessmentId }, { studentId }) => ({ assessmentId, studentId }),
  columns: (value) => ({ answered: value !== null }),
  keyOf: (row) => ({ studentId: row.studentId as string }),
  valueOf: () => null,
  check,
  load: async (context, scope, keys) => (await saved(context, scope, keys)).standing,
  after: keepChoices,
  topics: async (context, { assessmentId }) => {
    await assessmentChanged(context, assessmentId)
    return []
  },
})
