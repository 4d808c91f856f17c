import { v7 as uuid } from 'uuid'
import type { Box } from '@/core/assessment/box'
import { assessmentInput, copyInput } from '@/core/assessment/inputs'
import { newQuestion, type Keyed } from '@/core/assessment/kinds'
import { usualLevels, type Level } from '@/core/assessment/levels'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { assessmentChanged } from './changed'
import { attach, keepSources, makeDocument } from './document'
import { levelRows } from './levels'
import { loadLevels, loadQuestions } from './load-assessment'
import { createAssessment, seeAssessment, shareAssessment } from './rights'
import { courseOf } from './own-classes'
import { refuseField } from './messages'

interface Made {
  readonly name: string
  readonly subjectId: string
  readonly classIds: readonly string[]
  readonly givenOn: string
  readonly levels: readonly Level[]
  readonly documentIds: readonly string[]
  readonly seriesId?: string | null
  readonly yearGroupId?: string | null
  readonly description?: string | null
  readonly tags?: readonly string[]
  readonly questions: readonly (Keyed & {
    readonly points: string
    readonly standardIds?: readonly string[]
    readonly page?: number | null
    readonly box?: Box | null
    readonly rationale?: string | null
    readonly choiceRationales?: Readonly<Record<string, string>>
  })[]
}

/** Writes a new assessment with its first form, sitting and key. */
async function make(context: Context, made: Made): Promise<{ assessmentId: string; formId: string }> {
  const { db, actor } = context
  if (!actor.staffId) throw refuseField('classIds', 'notOwnClass', {})
  const [assessmentId, formId, sittingId] = [uuid(), uuid(), uuid()]
  const ofIt = { schoolId: actor.schoolId, assessmentId }
  const {
    name,
    subjectId,
    givenOn,
    seriesId = null,
    yearGroupId = null,
    description = null,
    tags = [],
  } = made
  await db
    .insertInto('assessment')
    .values({
      schoolId: actor.schoolId,
      id: assessmentId,
      name,
      subjectId,
      seriesId,
      yearGroupId,
      description,
      tags: [...tags],
      ownerId: actor.staffId,
      createdAt: context.now,
    })
    .execute()
  await db
    .insertInto('form')
    .values({ ...ofIt, id: formId })
    .execute()
  if (made.documentIds.length > 0)
    await db
      .insertInto('formDocument')
      .values(made.documentIds.map((documentId, i) => ({ ...ofIt, formId, documentId, position: i + 1 })))
      .execute()
  await db
    .insertInto('sitting')
    .values({ ...ofIt, id: sittingId, formId, givenOn, givenBy: actor.staffId })
    .execute()
  await db
    .insertInto('sittingClass')
    .values(made.classIds.map((classId) => ({ ...ofIt, sittingId, classId })))
    .execute()
  await db.insertInto('assessmentLevel').values(levelRows(ofIt, made.levels)).execute()
  await db
    .insertInto('keyVersion')
    .values({ ...ofIt, number: 1, madeBy: actor.name, madeAt: context.now })
    .execute()
  await makeQuestions(context, { ...ofIt, formId }, made.questions)
  await assessmentChanged(context, assessmentId)
  return { assessmentId, formId }
}

/** The sides of a place as columns. */
const sides = (box: Box | null | undefined) =>
  box && { x: `${box.x}`, y: `${box.y}`, width: `${box.width}`, height: `${box.height}` }

async function makeQuestions(
  { db }: Context,
  { formId, ...ofIt }: { readonly schoolId: string; readonly assessmentId: string; readonly formId: string },
  asked: Made['questions'],
) {
  const questions = asked.map((q, i) => ({ ...q, id: uuid(), position: i + 1 }))
  await db
    .insertInto('question')
    .values(
      questions.map(({ id, position, kind, rationale = null, choiceRationales = {} }) => ({
        ...ofIt,
        id,
        position,
        kind,
        rationale,
        choiceRationales: JSON.stringify(choiceRationales),
      })),
    )
    .execute()
  await db
    .insertInto('questionKey')
    .values(
      questions.map(({ id, content, points }) => ({
        ...ofIt,
        questionId: id,
        fromVersion: 1,
        content: JSON.stringify(content),
        points,
      })),
    )
    .execute()
  const tags = questions.flatMap(({ id, standardIds = [] }) =>
    standardIds.map((standardId) => ({ ...ofIt, questionId: id, standardId })),
  )
  if (tags.length > 0) await db.insertInto('questionStandard').values(tags).execute()
  const places = questions.flatMap(({ id, page, box }) =>
    page ? [{ ...ofIt, formId, questionId: id, page, ...sides(box) }] : [],
  )
  if (places.length > 0) await db.insertInto('questionPlace').values(places).execute()
}

/** Creates an assessment for some of the teacher's own classes. */
export const create = defineCommand({
  input: assessmentInput,
  right: createAssessment,
  needsNoVersion: 'creates',
  run: async (context, asked) => {
    const classIds = [...new Set(asked.classIds)]
    const course = await courseOf(context, classIds)
    const made = await make(context, {
      name: asked.name,
      ...course,
      classIds,
      givenOn: asked.givenOn,
      levels: usualLevels,
      documentIds: [],
      questions: Array.from({ length: asked.questions }, () => ({
        ...newQuestion('one choice', asked.choices),
        points: asked.points,
      })),
    })
    if (asked.documentIds.length > 0) await attach(context, { ...made, name: asked.name }, asked.documentIds)
    return { assessmentId: made.assessmentId }
  },
})

/**
 * Copies an assessment that the actor may see for classes of their own: its document, levels and tags, and its questions
 * with the key where they are wanted. Copies of copies are one series; what a colleague copies is the colleague's own.
 */
export const copy = defineCommand({
  input: copyInput,
  right: seeAssessment,
  needsNoVersion: 'creates',
  run: async (context, { assessmentId: from, name, classIds: asked, givenOn, withQuestions }) => {
    const { db } = context
    const classIds = [...new Set(asked)]
    const { subjectId } = await courseOf(context, classIds)
    const [origin, isOwn, questions, { levels }, documents, sources] = await Promise.all([
      db
        .selectFrom('assessment')
        .select(['id', 'seriesId', 'subjectId', 'yearGroupId', 'description', 'tags'])
        .where('id', '=', from)
        .executeTakeFirstOrThrow(),
      context.may(shareAssessment, { assessmentId: from }),
      loadQuestions(db, from),
      loadLevels(db, from),
      db
        .selectFrom('formDocument as d')
        .innerJoin('form as f', 'f.id', 'd.formId')
        .select('d.documentId')
        .where('d.assessmentId', '=', from)
        .where('f.position', '=', 1)
        .orderBy('d.position')
        .execute(),
      db
        .selectFrom('formSource as s')
        .innerJoin('form as f', 'f.id', 's.formId')
        .select(['s.documentId', 's.jobId'])
        .where('s.assessmentId', '=', from)
        .where('f.position', '=', 1)
        .orderBy('s.position')
        .execute(),
    ])
    if (origin.subjectId !== subjectId) throw refuseField('classIds', 'otherSubject', {})
    if (isOwn && !origin.seriesId)
      await db.updateTable('assessment').set({ seriesId: origin.id }).where('id', '=', from).execute()
    const empty = { ...newQuestion('one choice', 4), points: '1' }
    const made = await make(context, {
      name,
      subjectId,
      classIds,
      givenOn,
      levels,
      documentIds: documents.map((d) => d.documentId),
      seriesId: isOwn ? (origin.seriesId ?? origin.id) : null,
      yearGroupId: origin.yearGroupId,
      description: origin.description,
      tags: origin.tags,
      questions: withQuestions ? questions : [empty],
    })
    // What is still being made for the original is made for the copy as well.
    const files = sources.map((s) => s.documentId)
    if (sources.some((s) => s.jobId !== null)) await makeDocument(context, { ...made, name }, files)
    else if (files.length > 0) await keepSources(context, made, files, null)
    await assessmentChanged(context, from)
    return { assessmentId: made.assessmentId }
  },
})
