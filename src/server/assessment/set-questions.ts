import { sql } from 'kysely'
import { z } from 'zod'
import { questionsInput, type QuestionInput } from '@/core/assessment/inputs'
import { kindOf } from '@/core/assessment/kinds'
import { sameValue } from '@/core/same'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { checkUnchanged } from '@/server/platform/write'
import { assessmentChanged } from './changed'
import { firstForm } from './document'
import { loadQuestions, type LoadedQuestion } from './load-assessment'
import { editAssessment } from './rights'
import { scoreResponses } from './score'
import { refuse, refuseField } from './messages'

/** What stands of an assessment's questions before they are set. */
interface Before {
  readonly asked: ReadonlyMap<string, LoadedQuestion>
  /** Everything that was answered to each question, once; also to those that are asked no longer. */
  readonly answers: ReadonlyMap<string, readonly unknown[]>
  /** The kinds of all its questions, also of those that are asked no longer. */
  readonly kinds: ReadonlyMap<string, string>
  readonly version: number
  /** Whether anything was scored with its key. */
  readonly scored: boolean
}

async function standing({ db }: Context, assessmentId: string): Promise<Before> {
  const [asked, questions, answers, versions] = await Promise.all([
    loadQuestions(db, assessmentId),
    db.selectFrom('question').select(['id', 'kind']).where('assessmentId', '=', assessmentId).execute(),
    sql<{ questionId: string; values: unknown[] }>`
      select r.question_id, jsonb_agg(distinct r.value) as values from response r
      where r.assessment_id = ${assessmentId} group by r.question_id`.execute(db),
    sql<{ version: number; scored: boolean }>`
      select max(v.number)::integer as version,
        exists (select 1 from response_points p where p.assessment_id = ${assessmentId} and p.source = 'key') as scored
      from key_version v where v.assessment_id = ${assessmentId}`.execute(db),
  ])
  return {
    asked: new Map(asked.map((q) => [q.id, q])),
    answers: new Map(answers.rows.map((row) => [row.questionId, row.values])),
    kinds: new Map(questions.map((q) => [q.id, q.kind])),
    version: versions.rows[0]?.version ?? 1,
    scored: versions.rows[0]?.scored ?? false,
  }
}

/** Refuses questions that cannot be, or that what was answered already does not fit. */
function check(questions: readonly QuestionInput[], { kinds, answers }: Before): void {
  questions.forEach(({ id, kind, content }, i) => {
    const given = answers.get(id)
    if (!given) return
    const position = i + 1
    if (kinds.get(id) !== kind) throw refuseField('questions', 'kindWithAnswers', { position })
    for (const value of given) {
      const problem = kindOf(kind).misfit(content, value)
      if (problem !== undefined) throw refuseField('questions', 'answersBeyond', { position, problem })
    }
  })
}

/** Refuses what the questions refer to and does not exist, or belongs elsewhere. */
async function checkReferences({ db }: Context, assessmentId: string, questions: readonly QuestionInput[]) {
  const ids = questions.map((q) => q.id)
  if (new Set(ids).size < ids.length) throw refuse('questionTwice', {})
  const used = [...new Set(questions.flatMap((q) => q.standardIds))]
  const [foreign, standards] = await Promise.all([
    db
      .selectFrom('question')
      .select('id')
      .where('id', 'in', ids)
      .where('assessmentId', '!=', assessmentId)
      .executeTakeFirst(),
    used.length > 0 ? db.selectFrom('standard').select('id').where('id', 'in', used).execute() : [],
  ])
  if (foreign) throw refuse('foreignQuestion', {})
  const known = new Set(standards.map((s) => s.id))
  const gone = questions.findIndex((q) => q.standardIds.some((one) => !known.has(one)))
  if (gone >= 0) throw refuseField('questions', 'standardGone', { position: gone + 1 })
}

const isKeyedAlike = (now: LoadedQuestion | undefined, next: QuestionInput) =>
  now !== undefined &&
  now.kind === next.kind &&
  now.counts === next.counts &&
  Number(now.points) === Number(next.points) &&
  sameValue(now.content, next.content)

/** What a page does not say of a question, such as one that was opened before there were rationales, stays as it is. */
const withUnsaid = (next: QuestionInput, now: LoadedQuestion | undefined): QuestionInput => ({
  ...next,
  box: next.box === undefined && now?.page === next.page ? now.box : next.box,
  rationale: next.rationale === undefined ? now?.rationale : next.rationale,
  choiceRationales: next.choiceRationales ?? now?.choiceRationales,
})

interface Write {
  readonly context: Context
  readonly assessmentId: string
  readonly before: Before
  /** From which version of the key on what is written now holds. */
  readonly version: number
}

/** Questions that are asked no longer: those with answers are retired, others are gone. */
async function leave({ context: { db }, assessmentId, before, version }: Write, gone: readonly string[]) {
  if (gone.length === 0) return
  const [retired, deleted] = [
    gone.filter((one) => before.answers.has(one)),
    gone.filter((one) => !before.answers.has(one)),
  ]
  if (retired.length > 0) {
    await db
      .updateTable('questionKey')
      .set({ untilVersion: version })
      .where('assessmentId', '=', assessmentId)
      .where('questionId', 'in', retired)
      .where('untilVersion', 'is', null)
      .execute()
    await db
      .updateTable('question')
      .set({ position: null })
      .where('assessmentId', '=', assessmentId)
      .where('id', 'in', retired)
      .execute()
  }
  if (deleted.length === 0) return
  const of = sql`assessment_id = ${assessmentId} and question_id = any(${deleted}::uuid[])`
  await sql`delete from question_place where ${of}`.execute(db)
  await sql`delete from question_standard where ${of}`.execute(db)
  await sql`delete from question_key where ${of}`.execute(db)
  await sql`delete from question where assessment_id = ${assessmentId} and id = any(${deleted}::uuid[])`.execute(
    db,
  )
}

/** Each question with its position and kind. */
async function place({ context: { db, actor }, assessmentId }: Write, questions: readonly QuestionInput[]) {
  await db
    .insertInto('question')
    .values(
      questions.map(({ id, kind, rationale = null, choiceRationales = {} }, i) => ({
        schoolId: actor.schoolId,
        assessmentId,
        id,
        position: i + 1,
        kind,
        rationale: rationale || null,
        choiceRationales: JSON.stringify(choiceRationales),
      })),
    )
    .onConflict((c) =>
      c.columns(['schoolId', 'assessmentId', 'id']).doUpdateSet((eb) => ({
        position: eb.ref('excluded.position'),
        kind: eb.ref('excluded.kind'),
        rationale: eb.ref('excluded.rationale'),
        choiceRationales: eb.ref('excluded.choiceRationales'),
      })),
    )
    .execute()
}

/**
 * The keys of some questions. What something was scored with stays, and is followed by the new one; until then a key
 * is written over, so that a key being typed makes no versions.
 */
async function keepKeys(
  { context: { db, actor }, assessmentId, before, version }: Write,
  questions: readonly QuestionInput[],
) {
  if (questions.length === 0) return
  const rows = questions.map(({ id, content, points, counts }) => ({ id, content, points, counts }))
  const given = sql`jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as g(id uuid, content jsonb, points numeric, counts text)`
  if (before.scored)
    await sql`update question_key k set until_version = ${version} from ${given}
      where k.assessment_id = ${assessmentId} and k.question_id = g.id and k.until_version is null`.execute(
      db,
    )
  else
    await sql`update question_key k set content = g.content, points = g.points, counts = g.counts from ${given}
      where k.assessment_id = ${assessmentId} and k.question_id = g.id and k.until_version is null`.execute(
      db,
    )
  await sql`insert into question_key (school_id, assessment_id, question_id, from_version, content, points, counts)
    select ${actor.schoolId}, ${assessmentId}, g.id, ${version}, g.content, g.points, g.counts from ${given}
    where not exists (select 1 from question_key k where k.assessment_id = ${assessmentId} and k.question_id = g.id and k.until_version is null)`.execute(
    db,
  )
}

/** What each question is tagged with, and its place on the first form. */
async function keepTags({ context, assessmentId }: Write, questions: readonly QuestionInput[]) {
  const { db, actor } = context
  const tags = questions.flatMap(({ id, standardIds }) =>
    [...new Set(standardIds)].map((standard) => ({ id, standard })),
  )
  const tagged = sql`jsonb_to_recordset(${JSON.stringify(tags)}::jsonb) as g(id uuid, standard uuid)`
  await sql`delete from question_standard t using question q
    where t.assessment_id = ${assessmentId} and q.assessment_id = t.assessment_id and q.id = t.question_id and q.position is not null
      and not exists (select 1 from ${tagged} where g.id = t.question_id and g.standard = t.standard_id)`.execute(
    db,
  )
  if (tags.length > 0)
    await sql`insert into question_standard (school_id, assessment_id, question_id, standard_id)
      select ${actor.schoolId}, ${assessmentId}, g.id, g.standard from ${tagged} on conflict do nothing`.execute(
      db,
    )
  const formId = await firstForm(context, assessmentId)
  const places = questions.flatMap(({ id, page, box }) => (page === null ? [] : [{ id, page, ...box }]))
  const placed = sql`jsonb_to_recordset(${JSON.stringify(places)}::jsonb) as g(id uuid, page smallint, x real, y real, width real, height real)`
  await sql`delete from question_place p using question q
    where p.assessment_id = ${assessmentId} and p.form_id = ${formId} and q.assessment_id = p.assessment_id and q.id = p.question_id
      and q.position is not null and not exists (select 1 from ${placed} where g.id = p.question_id)`.execute(
    db,
  )
  if (places.length > 0)
    await sql`insert into question_place as t (school_id, assessment_id, form_id, question_id, page, x, y, width, height)
      select ${actor.schoolId}, ${assessmentId}, ${formId}, g.id, g.page, g.x, g.y, g.width, g.height from ${placed}
      on conflict (school_id, assessment_id, form_id, question_id) do update
        set page = excluded.page, x = excluded.x, y = excluded.y, width = excluded.width, height = excluded.height
        where (t.page, t.x, t.y, t.width, t.height) is distinct from
          (excluded.page, excluded.x, excluded.y, excluded.width, excluded.height)`.execute(db)
}

/**
 * Sets the questions in their order: kind, key, points, learning standards, page. Questions that stay keep their
 * answers, and every score follows; a question that has answers and is left out is retired with them.
 */
export const setQuestions = defineCommand({
  input: questionsInput,
  right: editAssessment,
  undo: {
    days: 1,
    whenChangedSince: 'stop',
    // Whoever has the key open sees that it is another one.
    after: async (context: Context, { assessmentId }: { assessmentId: string }) => {
      await context.db
        .updateTable('assessment')
        .set((eb) => ({ version: eb.ref('version') }))
        .where('id', '=', assessmentId)
        .execute()
      await assessmentChanged(context, assessmentId)
    },
  },
  run: async (
    context,
    { assessmentId, expectedVersion: seen, questions: asked }: z.output<typeof questionsInput>,
  ) => {
    const version = await checkUnchanged(context, 'assessment', { id: assessmentId }, seen, 'this assessment')
    await checkReferences(context, assessmentId, asked)
    const before = await standing(context, assessmentId)
    const questions = asked.map((q) => withUnsaid(q, before.asked.get(q.id)))
    check(questions, before)
    const ids = new Set(questions.map((q) => q.id))
    const gone = [...before.asked.keys()].filter((one) => !ids.has(one))
    const changed = questions.filter((q) => !isKeyedAlike(before.asked.get(q.id), q))
    const retires = gone.some((one) => before.answers.has(one))
    const isNew = (before.scored && changed.length > 0) || retires
    const write: Write = { context, assessmentId, before, version: before.version + (isNew ? 1 : 0) }
    if (isNew)
      await context.db
        .insertInto('keyVersion')
        .values({
          schoolId: context.actor.schoolId,
          assessmentId,
          number: write.version,
          madeBy: context.actor.name,
          madeAt: context.now,
        })
        .execute()
    await leave(write, gone)
    await place(write, questions)
    await keepKeys(write, changed)
    await keepTags(write, questions)
    if (changed.some((q) => before.answers.has(q.id)))
      await scoreResponses(context, assessmentId, { questionIds: changed.map((q) => q.id) })
    await assessmentChanged(context, assessmentId)
    return { version, ids: [...ids] }
  },
})
