import { z } from 'zod'
import { limits } from '@/core/limits'
import { civilDate, decimal, id, named, expectedVersion } from '@/core/inputs'
import { checkBands } from './bands'

/** A grading scale, new or changed: its grades from a day. */
export const scaleInput = z.object({
  scaleId: id.nullish(),
  expectedVersion,
  name: named('the name of the scale', limits.partName),
  /** The day from which these grades hold; null from the beginning. */
  startsOn: civilDate.nullable(),
  /** None where marks stay in percent, without grades. */
  bands: z
    .array(
      z.object({ grade: named('the grade', limits.grade), fromPercent: decimal('The percentage', '100') }),
    )
    .refine((bands) => bands.length !== 1, 'A scale needs at least two grades.')
    .max(limits.grades, `A scale can have at most ${limits.grades} grades.`)
    .superRefine((bands, context) => {
      for (const { path, message } of checkBands(bands))
        context.addIssue({ code: 'custom', path: [...path], message })
    }),
})
