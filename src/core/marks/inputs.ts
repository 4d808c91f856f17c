import { z } from 'zod'
import { civilDate, chosen, decimal, id, named, expectedVersion, optionalText, whole } from '@/core/inputs'
import { limits } from '@/core/limits'
import { sameName } from '@/core/same-name'
import { tagsInput } from '@/core/tags-input'
import { countings, lateBases, methods, withins } from './gradebook'

/** An assignment of a gradebook. */
const assignment = z.object({
  classId: id,
  name: named('the name', limits.shortName),
  categoryId: chosen('a category'),
  maxPoints: decimal('The maximum', limits.points).refine(
    (most) => Number(most) > 0,
    'The maximum must be above zero.',
  ),
  dueOn: civilDate,
  counts: z.boolean(),
  /** Its points come on top of what can be earned. */
  extra: z.boolean().default(false),
  description: optionalText('The description', limits.statement)
    .default('')
    .transform((text) => text ?? ''),
  tags: tagsInput.default([]),
  /** When it was given; not known without. */
  givenOn: civilDate.nullable().default(null),
  /** From when families see it with its scores; never without. */
  shownFrom: civilDate.nullable().default(null),
})

const givenBeforeDue = ({ givenOn, dueOn }: { givenOn: string | null; dueOn: string }) =>
  givenOn === null || givenOn <= dueOn
const givenLate = { path: ['givenOn'], message: 'It cannot be given after it is due.' }

/** An assignment as it is to be from now on. */
export const assignmentInput = assignment
  .extend({ assignmentId: id, expectedVersion })
  .refine(givenBeforeDue, givenLate)

/** A new one, also for other classes whose gradebooks have a category of the same name. */
export const newAssignmentInput = assignment
  .extend({
    others: z
      .array(id)
      .max(limits.classesOfAssessment, `Add it to at most ${limits.classesOfAssessment} classes at once.`)
      .default([]),
  })
  .refine(givenBeforeDue, givenLate)
export type AssignmentFields = z.infer<typeof assignment>

/** Another one like it in the same class. */
export const copyAssignmentInput = z.object({ classId: id, assignmentId: id, withScores: z.boolean() })

/** The assignments of a term in the order in which they stand; none to order them by category and date. */
export const assignmentOrderInput = z.object({
  classId: id,
  termId: id,
  ids: z.array(id).max(limits.assignments, `Order at most ${limits.assignments} assignments.`),
})

const category = z.object({
  /** What it is called in the gradebooks now, where it gets another name. */
  was: named('the name of each category', limits.shortName).optional(),
  name: named('the name of each category', limits.shortName),
  weight: decimal('The weight', limits.weight),
  within: z.enum(withins),
  dropLowest: whole('how many are dropped', 0, limits.dropLowest),
})

const above = (least: number, words: string) => [(text: string) => Number(text) >= least, words] as const

/** The rules and categories of a gradebook, for one class or several. */
export const settingsInput = z.object({
  termId: id,
  /** The gradebooks they are for; version 0 sets one up. */
  targets: z
    .array(z.object({ classId: id, expectedVersion }))
    .min(1, 'Choose at least one gradebook.')
    .max(limits.classesOfAssessment, `Set up at most ${limits.classesOfAssessment} gradebooks at once.`)
    .refine((targets) => new Set(targets.map((t) => t.classId)).size === targets.length, {
      message: 'A class is there twice.',
    }),
  method: z.enum(methods),
  decimals: whole('the decimal places', 0, limits.decimals),
  emptyCounts: z.enum(['nothing', 'zero after due']),
  missingCounts: z.enum(countings),
  incompleteCounts: z.enum(countings),
  late: z
    .object({
      percent: decimal('What late work loses', '100').refine(
        ...above(0.01, 'Enter more than 0 per cent, or choose that late work loses nothing.'),
      ),
      of: z.enum(lateBases),
    })
    .nullable(),
  most: decimal('The highest mark', limits.most)
    .refine(...above(1, 'The highest mark must be at least 1.'))
    .nullable(),
  categories: z
    .array(category)
    .min(1, 'A gradebook needs at least one category.')
    .max(limits.categories, `A gradebook can have at most ${limits.categories} categories.`)
    .superRefine((categories, context) => {
      const names = categories.map((c) => sameName(c.name))
      names.forEach((name, i) => {
        if (names.indexOf(name) < i)
          context.addIssue({
            code: 'custom',
            path: [i, 'name'],
            message: `${categories[i]?.name} is in the list twice.`,
          })
      })
    }),
  /** A gradebook whose columns come along, where there are none of the same names. */
  columnsFrom: z.object({ classId: id, termId: id }).nullable().default(null),
})
export type Settings = z.infer<typeof settingsInput>
