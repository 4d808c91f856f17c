import { z } from 'zod'
import { civilDate, chosen, decimal, id, named, expectedVersion, whole } from '@/core/inputs'
import { limits } from '@/core/limits'

/** A new assignment of a gradebook. */
export const assignmentInput = z.object({
  classId: id,
  name: named('the name', limits.shortName),
  categoryId: chosen('a category'),
  maxPoints: decimal('The maximum', limits.points).refine(
    (most) => Number(most) > 0,
    'The maximum must be above zero.',
  ),
  dueOn: civilDate,
  counts: z.boolean(),
})

/** A gradebook's categories, weights and rules. */
export const settingsInput = z.object({
  classId: id,
  termId: id,
  expectedVersion,
  decimals: whole('the decimal places', 0, limits.decimals),
  emptyCounts: z.enum(['nothing', 'zero after due']),
  missingCounts: z.enum(['nothing', 'zero']),
  categories: z
    .array(
      z.object({
        id: id.optional(),
        name: named('the name of each category', limits.shortName),
        weight: decimal('The weight', limits.weight),
        dropLowest: whole('how many are dropped', 0, limits.dropLowest),
      }),
    )
    .min(1, 'A gradebook needs at least one category.')
    .max(limits.categories, `A gradebook can have at most ${limits.categories} categories.`),
})
