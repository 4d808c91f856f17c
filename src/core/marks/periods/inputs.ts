import { z } from 'zod'
import { expectedVersion, id, written } from '@/core/inputs'
import { limits } from '@/core/limits'

const period = z
  .object({ termId: id.nullable(), periodId: id.nullable() })
  .refine((p) => p.periodId === null || p.termId !== null, {
    path: ['termId'],
    message: 'A marking period belongs to a term.',
  })

/** The marks of a class in a part of the year, as they were seen; version 0 where nobody has confirmed them yet. */
export const classMarksInput = z.object({ classId: id, period, expectedVersion })

/** Marks of several classes, for the same part of the year. */
export const severalMarksInput = z.object({
  period,
  targets: z
    .array(z.object({ classId: id, expectedVersion }))
    .min(1, 'Choose at least one class.')
    .max(limits.classesOfStudent, `Choose at most ${limits.classesOfStudent} classes.`),
})

/** Reopening says why. */
export const reopenInput = classMarksInput.extend({ reason: written('a reason', limits.remark) })
