import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { assessmentInput, questionsInput } from '@/core/assessment/inputs'
import { limits } from '@/core/limits'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { decimal, id, expectedVersion } from '@/core/inputs'
import { updateIfUnchanged } from '@/server/platform/write'
import { isTeacherOf } from '@/server/school/facts'
import { assessmentChanged } from './changed'
import { createAssessment, editAssessment } from './rights'
import { refuse, refuseField } from './messages'

async function checkDocument({ db, actor }: Context, documentId: string) {
  const document = await db
    .selectFrom('document')
    .select('id')
    .where('id', '=', documentId)
    .where('createdBy', '=', actor.accountId)
    .executeTakeFirst()
  if (!document) throw refuseField('documentId', 'documentGone', {})
}

/** Creates an assessment for some of the teacher's own classes. */
export const create = defineCommand({
  input: assessmentInput,
  right: createAssessment,
  needsNoVersion: 'creates',
  run: async (context, asked) => {
    const { db, actor } = context
    const classIds = [...new Set(asked.classIds)]
    const own = await db
      .selectFrom('class')
      .select('id')
      .where('id', 'in', classIds)
      .where(isTeacherOf(sql.ref('class.id'), actor.staffId, context.today))
      .execute()
    if (own.length < classIds.length || !actor.staffId) throw refuseField('classIds', 'notOwnClass', {})
    const subjects = await db
      .selectFrom('class as c')
      .innerJoin('course as k', 'k.id', 'c.courseId')
      .select('k.subjectId')
      .distinct()
      .where('c.id', 'in', asked.classIds)
      .execute()
    const subject = subjects[0]
    if (!subject || subjects.length > 1) throw refuseField('classIds', 'severalSubjects', {})
    if (asked.documentId) await checkDocument(context, asked.documentId)
    const assessmentId = uuid()
    const ofIt = { schoolId: actor.schoolId, assessmentId }
    await db
      .insertInto('assessment')
      .values({
        schoolId: actor.schoolId,
        id: assessmentId,
        name: asked.name,
        subjectId: subject.subjectId,
        ownerId: actor.staffId,
        documentId: asked.documentId ?? null,
        givenOn: asked.givenOn,
        createdAt: context.now,
      })
      .execute()
    await db
      .insertInto('assessmentClass')
      .values(classIds.map((classId) => ({ ...ofIt, classId })))
      .execute()
    await db
      .insertInto('question')
      .values(
        Array.from({ length: asked.questions }, (_, i) => ({
          ...ofIt,
          id: uuid(),
          position: i + 1,
          choices: asked.choices,
          key: null,
          points: asked.points,
          standardId: null,
          page: null,
        })),
      )
      .execute()
    await assessmentChanged(context, assessmentId)
    return { assessmentId }
  },
})

/** Changes an assessment that still has the version seen; otherwise nothing, and the conflict says so. */
const change = (context: Context, assessmentId: string, version: number, columns: object) =>
  updateIfUnchanged(
    context,
    'assessment',
    { id: assessmentId },
    version,
    { ...columns },
    {
      what: 'this assessment',
      saved: () => Promise.resolve({ value: null }),
    },
  )

/** Attaches or replaces the document; the key stays as it is. */
export const setDocument = defineCommand({
  input: z.object({ assessmentId: id, documentId: id, expectedVersion }),
  right: editAssessment,
  run: async (context, { assessmentId, documentId, expectedVersion: version }) => {
    await checkDocument(context, documentId)
    const written = await change(context, assessmentId, version, { documentId })
    await assessmentChanged(context, assessmentId)
    return { version: written }
  },
})

/**
 * Sets the questions in their order: key, choices, points, learning standard, page. Questions that stay keep their
 * answers; every score follows at once.
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
  run: async (context, { assessmentId, expectedVersion: seenVersion, questions }) => {
    const { db, actor } = context
    const version = await change(context, assessmentId, seenVersion, {})
    const rows = questions.map((q, i) => ({
      schoolId: actor.schoolId,
      assessmentId,
      id: q.id,
      position: i + 1,
      choices: q.choices,
      key: q.key,
      points: q.points,
      standardId: q.standardId,
      page: q.page,
    }))
    const ids = rows.map((r) => r.id)
    if (new Set(ids).size < ids.length) throw refuse('questionTwice', {})
    await checkStandards(context, rows)
    const foreign = await db
      .selectFrom('question')
      .select('id')
      .where('id', 'in', ids)
      .where('assessmentId', '!=', assessmentId)
      .executeTakeFirst()
    if (foreign) throw refuse('foreignQuestion', {})
    const outOfRange = await db
      .selectFrom('answer')
      .select('questionId')
      .where('assessmentId', '=', assessmentId)
      .where(
        sql<boolean>`exists (select 1 from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(id uuid, choices int) where r.id = answer.question_id and ascii(answer.choice) - 64 > r.choices)`,
      )
      .executeTakeFirst()
    if (outOfRange)
      throw refuseField('questions', 'answersBeyond', { position: ids.indexOf(outOfRange.questionId) + 1 })
    await db
      .deleteFrom('question')
      .where('assessmentId', '=', assessmentId)
      .where('id', 'not in', ids)
      .execute()
    await db
      .insertInto('question')
      .values(rows)
      .onConflict((c) =>
        c.columns(['schoolId', 'assessmentId', 'id']).doUpdateSet((eb) => ({
          position: eb.ref('excluded.position'),
          choices: eb.ref('excluded.choices'),
          key: eb.ref('excluded.key'),
          points: eb.ref('excluded.points'),
          standardId: eb.ref('excluded.standardId'),
          page: eb.ref('excluded.page'),
        })),
      )
      .execute()
    await assessmentChanged(context, assessmentId)
    return { version, ids }
  },
})

async function checkStandards(
  { db }: Context,
  rows: readonly { readonly position: number; readonly standardId: string | null }[],
) {
  const used = [...new Set(rows.flatMap((r) => r.standardId ?? []))]
  if (used.length === 0) return
  const known = await db.selectFrom('learningStandard').select('id').where('id', 'in', used).execute()
  const ids = new Set(known.map((s) => s.id))
  const gone = rows.find((r) => r.standardId !== null && !ids.has(r.standardId))
  if (gone) throw refuseField('questions', 'standardGone', { position: gone.position })
}

/** From which percentages of points a result is nearly and secure. */
export const setThresholds = defineCommand({
  input: z
    .object({
      assessmentId: id,
      expectedVersion,
      secureFrom: decimal('Secure from', limits.percent),
      nearlyFrom: decimal('Nearly from', limits.percent),
    })
    .refine((t) => Number(t.nearlyFrom) < Number(t.secureFrom), {
      path: ['secureFrom'],
      message: 'Secure must begin above nearly, and at 100 at most.',
    }),
  right: editAssessment,
  run: async (context, { assessmentId, expectedVersion: version, secureFrom, nearlyFrom }) => {
    const written = await change(context, assessmentId, version, { secureFrom, nearlyFrom })
    await assessmentChanged(context, assessmentId)
    return { version: written }
  },
})
