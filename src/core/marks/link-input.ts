import { z } from 'zod'
import { decimal, id, expectedVersion } from '@/core/inputs'
import { limits } from '@/core/limits'

/** Where one class's gradebook shows an assessment: in a new assignment of a category, or in one that is there. */
const target = z
  .object({
    classId: id,
    categoryId: id.optional(),
    /** In place of a category: an assignment without scores of its own. */
    assignment: z.object({ id, expectedVersion }).optional(),
  })
  .refine((one) => (one.categoryId === undefined) !== (one.assignment === undefined), {
    path: ['categoryId'],
    message: 'Choose a category, or one assignment.',
  })

/** An assessment for the gradebooks of one or several classes, in one act. */
export const linkInput = z
  .object({
    assessmentId: id,
    targets: z
      .array(target)
      .min(1, 'Choose at least one class.')
      .max(limits.classesOfAssessment)
      .refine((targets) => new Set(targets.map((t) => t.classId)).size === targets.length, {
        message: 'A class is there twice.',
      }),
    /** One score for each learning standard, and not one for the whole. */
    byStandard: z.boolean().default(false),
    /** What it is scaled to; null keeps the assessment's own points. */
    maxPoints: decimal('Points', limits.points)
      .refine((text) => Number(text) > 0, 'Enter more than 0 points.')
      .nullable()
      .default(null),
  })
  .refine((link) => !(link.byStandard && link.targets.some((t) => t.assignment)), {
    path: ['targets'],
    message: 'One score for each standard needs an assignment for each. Choose categories.',
  })
export type LinkTarget = z.infer<typeof target>
