import { z } from 'zod'
import { decimal, id, expectedVersion } from '@/core/inputs'
import { limits } from '@/core/limits'

/** An assessment for a class's gradebook: in a new assignment of a category, or in one that is there. */
export const linkInput = z
  .object({
    classId: id,
    assessmentId: id,
    categoryId: id.optional(),
    /** In place of a category: an assignment without scores of its own. */
    assignment: z.object({ id, expectedVersion }).optional(),
    /** One score for each learning standard, and not one for the whole. */
    byStandard: z.boolean().default(false),
    /** What it is scaled to; null keeps the assessment's own points. */
    maxPoints: decimal('Points', limits.points)
      .refine((text) => Number(text) > 0, 'Enter more than 0 points.')
      .nullable()
      .default(null),
  })
  .refine((link) => (link.categoryId === undefined) !== (link.assignment === undefined), {
    path: ['categoryId'],
    message: 'Choose a category, or one assignment.',
  })
  .refine((link) => !(link.byStandard && link.assignment), {
    path: ['assignment'],
    message: 'One score for each standard needs an assignment for each. Choose a category.',
  })
