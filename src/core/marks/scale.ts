import { z } from 'zod'
import { limits } from '@/core/limits'
import { decimal, id, named, expectedVersion } from '@/core/inputs'
import { checkBands } from './bands'

/** A grading scale, new or changed. */
export const scaleInput = z.object({
  scaleId: id.nullish(),
  expectedVersion,
  name: named('the name of the scale', limits.partName),
  bands: z
    .array(
      z.object({ grade: named('the grade', limits.grade), fromPercent: decimal('The percentage', '100') }),
    )
    .min(2, 'A scale needs at least two grades.')
    .max(limits.grades, `A scale can have at most ${limits.grades} grades.`)
    .superRefine((bands, context) => {
      for (const { path, message } of checkBands(bands))
        context.addIssue({ code: 'custom', path: [...path], message })
    }),
})
