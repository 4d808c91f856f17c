import { z } from 'zod'
import { decimal, expectedVersion, id, named, whole } from '@/core/inputs'
import { limits } from '@/core/limits'
import { doings, takes } from './column'

const operand = z.discriminatedUnion('of', [
  z.object({ of: z.literal('assignment'), id }),
  z.object({ of: z.literal('category'), id }),
  z.object({ of: z.literal('marks'), termId: id, periodId: id.nullable() }),
  z.object({ of: z.literal('column'), id }),
])

/** A calculated column, new or changed. */
export const columnInput = z
  .object({
    classId: id,
    /** None for a new one. */
    columnId: id.nullable(),
    expectedVersion,
    /** The term whose gradebook shows it; null for all terms of the year. */
    termId: id.nullable(),
    name: named('the name', limits.shortName),
    does: z.enum(doings),
    take: whole('how many are taken', 1, limits.columnParts).nullable(),
    decimals: whole('the decimal places', 0, limits.decimals),
    parts: z
      .array(z.object({ operand, weight: decimal('The weight', limits.weight) }))
      .min(1, 'Choose what it is worked out from.')
      .max(limits.columnParts, `A column can have at most ${limits.columnParts} parts.`),
    levels: z
      .array(
        z.object({ name: named('the level', limits.partName), from: decimal('The value', limits.points) }),
      )
      .max(limits.grades, `A column can have at most ${limits.grades} levels.`)
      .refine((levels) => levels.every((l, i) => i === 0 || Number(l.from) < Number(levels[i - 1]?.from)), {
        message: 'Each level must begin below the one above it.',
      }),
  })
  .refine((column) => (column.take !== null) === takes(column.does), {
    path: ['take'],
    message: 'Enter how many are taken.',
  })
export type ColumnInput = z.infer<typeof columnInput>
