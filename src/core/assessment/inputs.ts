import { z } from 'zod'
import { chosen, civilDate, decimal, id, named, expectedVersion, whole } from '@/core/inputs'
import { limits } from '@/core/limits'
import { kindOf, kinds, type Keyed } from './kinds'
import type { Threshold } from './levels'
import type { Box } from './box'
import type { Counts } from './scoring'

/** The files a test is made from: a PDF, a text, or pictures in their order. */
export const documentIds = z
  .array(chosen('a document'))
  .max(limits.filesOfDocument, `Choose at most ${limits.filesOfDocument} files.`)

/** A new assessment of questions with choices. */
export const assessmentInput = z.object({
  name: named('the name'),
  classIds: z.array(id).min(1, 'Choose at least one class.').max(limits.classesOfAssessment),
  givenOn: civilDate,
  questions: whole('the number of questions', 1, limits.questions),
  choices: whole('the number of choices', 2, limits.choices),
  points: decimal('Points', limits.questionPoints),
  documentIds: documentIds.default([]),
})

/** A copy of an assessment: the same document and levels, with its questions or without. */
export const copyInput = z.object({
  assessmentId: id,
  name: named('the name'),
  classIds: z.array(id).min(1, 'Choose at least one class.').max(limits.classesOfAssessment),
  givenOn: civilDate,
  withQuestions: z.boolean(),
})

/** A question as it is saved; its place in the list is its position. */
export type QuestionInput = Keyed & {
  readonly id: string
  readonly points: string
  readonly counts: Counts
  readonly standardIds: readonly string[]
  readonly page: number | null
  readonly box?: Box | null
  readonly rationale?: string | null
  readonly choiceRationales?: Readonly<Record<string, string>>
}

const share = z.number().min(0).max(1)
const box: z.ZodType<Box, Box> = z
  .object({
    x: share.lt(1),
    y: share.lt(1),
    width: share.gt(0),
    height: share.gt(0),
  })
  .refine((b) => b.x + b.width <= 1.0001 && b.y + b.height <= 1.0001, {
    message: 'The place is not on the page.',
  })

const rationale = z
  .string()
  .trim()
  .max(limits.remark, `Shorten the rationale to at most ${limits.remark} characters.`)

type Schemas = ReturnType<ReturnType<typeof kindOf>['schemas']>
const schemas = new Map<string, Schemas>(kinds.map((kind) => [kind.name, kindOf(kind.name).schemas(z)]))

/** What a question of some kind and an answer to it may be. */
export const schemasOf = (name: string): Schemas => schemas.get(name) ?? kindOf(name).schemas(z)

const common = {
  id,
  points: decimal('Points', limits.questionPoints),
  counts: z.enum(['keyed', 'dropped', 'given']),
  standardIds: z.array(id).max(limits.standardsOfQuestion, 'Tag a question with fewer standards.'),
  page: z.number().int().min(1).max(limits.page).nullable(),
  box: box.nullish(),
  rationale: rationale.nullish(),
  choiceRationales: z.record(z.string().regex(/^[A-J]$/), rationale).optional(),
}
const [first, ...others] = kinds.map((kind) =>
  z.object({ ...common, kind: z.literal(kind.name), content: schemasOf(kind.name).content }),
)
if (!first) throw new Error('there are kinds of questions')
// Each kind's schema is that of its content; together they are what a question can be.
const question = z.discriminatedUnion('kind', [first, ...others]) as unknown as z.ZodType<
  QuestionInput,
  QuestionInput
>

/** The questions of an assessment in their order; whoever adds one gives it its id. */
export const questionsInput = z.object({
  assessmentId: id,
  expectedVersion,
  questions: z.array(question).min(1, 'An assessment needs at least one question.').max(limits.questions),
})

const threshold: z.ZodType<Threshold, Threshold> = z.union([
  z.strictObject({ percent: decimal('A percentage', limits.percent) }),
  z.strictObject({ points: decimal('Points', limits.points) }),
])

/** The levels of an assessment, the highest first, and where they begin for a standard when it is elsewhere. */
export const levelsInput = z.object({
  assessmentId: id,
  expectedVersion,
  levels: z
    .array(z.object({ name: named('the name of each level', limits.partName), from: threshold.nullable() }))
    .min(2, 'Enter at least two levels.')
    .max(limits.levels, `Enter at most ${limits.levels} levels.`)
    .refine((levels) => levels.every(({ from }, i) => (from === null) === (i === levels.length - 1)), {
      message: 'Enter where each level begins; the lowest has no beginning.',
    })
    .refine((levels) => new Set(levels.map((l) => l.name.toLowerCase())).size === levels.length, {
      message: 'Two levels have the same name. Give each its own.',
    }),
  standards: z
    .array(
      z.object({
        standardId: id,
        from: z
          .array(threshold)
          .min(1)
          .max(limits.levels - 1),
      }),
    )
    .max(limits.standardsOfAssessment),
})

/** What is typed for one question: null where it was left out. Its kind says what it may be. */
export const answerInput = z.object({
  questionId: id,
  value: z
    .union([
      z.string().max(limits.writtenResponse, 'Shorten this answer.'),
      z.boolean(),
      z.array(z.string().max(limits.code)).min(1).max(limits.choices),
    ])
    .nullable(),
  points: decimal('Points', limits.questionPoints).nullable(),
})
