import { z } from 'zod'
import { chosen, civilDate, decimal, id, named, expectedVersion, whole } from '@/core/inputs'
import { limits } from '@/core/limits'
import { choiceLetters } from './answer-key'

/** A new assessment of questions with choices. */
export const assessmentInput = z.object({
  name: named('the name'),
  classIds: z.array(id).min(1, 'Choose at least one class.').max(limits.classesOfAssessment),
  givenOn: civilDate,
  questions: whole('the number of questions', 1, limits.questions),
  choices: whole('the number of choices', 2, limits.choices),
  points: decimal('Points', limits.questionPoints),
  documentId: chosen('a document').nullish(),
})

const question = z
  .object({
    id,
    key: z
      .string()
      .regex(/^[A-J]$/)
      .nullable(),
    choices: whole('the number of choices', 2, limits.choices),
    points: decimal('Points', limits.questionPoints),
    standardId: id.nullable(),
    page: z.number().int().min(1).max(limits.page).nullable(),
  })
  .refine((q) => q.key === null || choiceLetters.indexOf(q.key) < q.choices, {
    message: 'The key is not one of the question’s choices. Add choices or enter another letter.',
  })

/** The questions of an assessment in their order; whoever adds one gives it its id. */
export const questionsInput = z.object({
  assessmentId: id,
  expectedVersion,
  questions: z.array(question).min(1, 'An assessment needs at least one question.').max(limits.questions),
})
