import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { choiceLetters } from '@/core/assessment/answer-key'
import { Refusal, refuse, refuseField } from '@/server/platform/failure'
import { civilDate, decimal, expectedVersion, id, named } from '@/server/platform/inputs'
import { defineCommand, onlyRoles, type Context } from '@/server/platform/registry'
import { teachesClasses } from '@/server/platform/relations'
import { assessmentChanged } from './changed'
import { mayEditAssessment } from './policy'

/** Makes an assessment for some of the teacher's own classes. */
export const create = defineCommand({
  name: 'assessment.create',
  input: z.object({
    name: named('The name'),
    classIds: z.array(id).min(1, 'No class is chosen. Choose at least one.').max(30),
    givenOn: civilDate,
    questions: z
      .number()
      .int()
      .min(1, 'There must be at least one question.')
      .max(200, 'At most 200 questions.'),
    choices: z
      .number()
      .int()
      .min(2, 'A question needs at least 2 choices.')
      .max(10, 'A question has at most 10 choices.'),
    points: decimal('Points'),
    documentId: id.nullish(),
  }),
  allow: onlyRoles('teacher'),
  run: async (context, asked) => {
    const { db, actor } = context
    if (!(await teachesClasses(context, asked.classIds)))
      throw refuseField('classIds', 'One of the classes is not yours. Choose from your own classes.')
    const subjects = await db
      .selectFrom('class as c')
      .innerJoin('course as k', 'k.id', 'c.course_id')
      .select('k.subject_id')
      .distinct()
      .where('c.id', 'in', asked.classIds)
      .execute()
    const subject = subjects[0]
    if (!subject || subjects.length > 1)
      throw refuseField('classIds', 'The classes are of different subjects. Choose classes of one subject.')
    if (asked.documentId) {
      const document = await db
        .selectFrom('document')
        .select('id')
        .where('id', '=', asked.documentId)
        .where('created_by', '=', actor.accountId)
        .executeTakeFirst()
      if (!document)
        throw refuseField('documentId', 'The uploaded document is not there any more. Choose the file again.')
    }
    const assessmentId = uuid()
    const own = { school_id: actor.schoolId, assessment_id: assessmentId }
    await db
      .insertInto('assessment')
      .values({
        school_id: actor.schoolId,
        id: assessmentId,
        name: asked.name,
        subject_id: subject.subject_id,
        owner_id: actor.personId,
        document_id: asked.documentId ?? null,
        given_on: asked.givenOn,
        created_at: context.now,
      })
      .execute()
    await db
      .insertInto('assessment_class')
      .values([...new Set(asked.classIds)].map((class_id) => ({ ...own, class_id })))
      .execute()
    await db
      .insertInto('question')
      .values(
        Array.from({ length: asked.questions }, (_, i) => ({
          ...own,
          id: uuid(),
          position: i + 1,
          choices: asked.choices,
          key: null,
          points: asked.points,
          standard_id: null,
          page: null,
        })),
      )
      .execute()
    await assessmentChanged(context, assessmentId)
    return { assessmentId }
  },
})

async function bumpVersion({ db }: Context, assessmentId: string, expected: number) {
  const bumped = await db
    .updateTable('assessment')
    .set((eb) => ({ version: eb('version', '+', 1) }))
    .where('id', '=', assessmentId)
    .where('version', '=', expected)
    .returning('version')
    .executeTakeFirst()
  if (bumped) return bumped.version
  const current = await db
    .selectFrom('assessment')
    .select('version')
    .where('id', '=', assessmentId)
    .executeTakeFirstOrThrow()
  throw new Refusal({
    kind: 'conflict',
    message: 'Somebody else changed this key meanwhile. Their version is shown now; make your change again.',
    current,
  })
}

/** Attaches or replaces the document; the key stays as it is. */
export const setDocument = defineCommand({
  name: 'assessment.setDocument',
  input: z.object({ assessmentId: id, documentId: id }),
  allow: mayEditAssessment,
  run: async (context, { assessmentId, documentId }) => {
    const document = await context.db
      .selectFrom('document')
      .select('id')
      .where('id', '=', documentId)
      .where('created_by', '=', context.actor.accountId)
      .executeTakeFirst()
    if (!document)
      throw refuseField('documentId', 'The uploaded document is not there any more. Choose the file again.')
    await context.db
      .updateTable('assessment')
      .set({ document_id: documentId })
      .where('id', '=', assessmentId)
      .execute()
    await assessmentChanged(context, assessmentId)
    return null
  },
})

const question = z
  .object({
    id: id.optional(),
    key: z
      .string()
      .regex(/^[A-J]$/)
      .nullable(),
    choices: z.number().int().min(2).max(10),
    points: decimal('Points'),
    standardId: id.nullable(),
    page: z.number().int().min(1).max(500).nullable(),
  })
  .refine((q) => q.key === null || choiceLetters.indexOf(q.key) < q.choices, {
    message:
      'The key names a choice that the question does not have. Give it more choices or another letter.',
  })

/**
 * Sets the questions in their order: key, choices, points, learning standard, page. Questions that stay keep their
 * answers; every score follows at once.
 */
export const setQuestions = defineCommand({
  name: 'assessment.setQuestions',
  input: z.object({
    assessmentId: id,
    expectedVersion,
    questions: z.array(question).min(1, 'An assessment needs at least one question.').max(200),
  }),
  allow: mayEditAssessment,
  run: async (context, { assessmentId, expectedVersion: expected, questions }) => {
    const { db, actor } = context
    const version = await bumpVersion(context, assessmentId, expected)
    const rows = questions.map((q, i) => ({
      school_id: actor.schoolId,
      assessment_id: assessmentId,
      id: q.id ?? uuid(),
      position: i + 1,
      choices: q.choices,
      key: q.key,
      points: q.points,
      standard_id: q.standardId,
      page: q.page,
    }))
    const ids = rows.map((r) => r.id)
    const foreign = await db
      .selectFrom('question')
      .select('id')
      .where('id', 'in', ids)
      .where('assessment_id', '!=', assessmentId)
      .executeTakeFirst()
    if (foreign) throw refuse('One of the questions belongs to another assessment.')
    const outOfRange = await db
      .selectFrom('answer')
      .select('question_id')
      .where('assessment_id', '=', assessmentId)
      .where(
        sql<boolean>`exists (select 1 from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as r(id uuid, choices int) where r.id = answer.question_id and ascii(answer.choice) - 64 > r.choices)`,
      )
      .executeTakeFirst()
    if (outOfRange)
      throw refuseField(
        'questions',
        `Question ${ids.indexOf(outOfRange.question_id) + 1} has answers beyond its new number of choices. Change those answers first.`,
      )
    await db
      .deleteFrom('question')
      .where('assessment_id', '=', assessmentId)
      .where('id', 'not in', ids)
      .execute()
    await db
      .insertInto('question')
      .values(rows)
      .onConflict((c) =>
        c.columns(['school_id', 'assessment_id', 'id']).doUpdateSet((eb) => ({
          position: eb.ref('excluded.position'),
          choices: eb.ref('excluded.choices'),
          key: eb.ref('excluded.key'),
          points: eb.ref('excluded.points'),
          standard_id: eb.ref('excluded.standard_id'),
          page: eb.ref('excluded.page'),
        })),
      )
      .execute()
    await assessmentChanged(context, assessmentId)
    return { version, ids }
  },
})

/** From which percentages of points a result is nearly and secure. */
export const setThresholds = defineCommand({
  name: 'assessment.setThresholds',
  input: z
    .object({ assessmentId: id, secureFrom: decimal('Secure from'), nearlyFrom: decimal('Nearly from') })
    .refine((t) => Number(t.nearlyFrom) < Number(t.secureFrom) && Number(t.secureFrom) <= 100, {
      path: ['secureFrom'],
      message: 'Secure must begin above nearly, and at 100 at most.',
    }),
  allow: mayEditAssessment,
  run: async (context, { assessmentId, secureFrom, nearlyFrom }) => {
    await context.db
      .updateTable('assessment')
      .set({ secure_from: secureFrom, nearly_from: nearlyFrom })
      .where('id', '=', assessmentId)
      .execute()
    await assessmentChanged(context, assessmentId)
    return null
  },
})
