import { z } from 'zod'
import { decimal, expectedVersion, id, named, whole } from '@/core/inputs'
import { limits } from '@/core/limits'
import { sameName } from '@/core/same-name'
import { doings, enterings, takes, type Doing } from './column'

const operand = z.discriminatedUnion('of', [
  z.object({ of: z.literal('assignment'), id }),
  z.object({ of: z.literal('category'), id }),
  z.object({ of: z.literal('marks'), termId: id, periodId: id.nullable() }),
  z.object({ of: z.literal('column'), id }),
])

const shared = {
  classId: id,
  /** None for a new one. */
  columnId: id.nullable(),
  expectedVersion,
  /** The term whose gradebook shows it; null for all terms of the year. */
  termId: id.nullable(),
  name: named('the name', limits.shortName),
  /** Other classes that get the same new column; it can read only what they have, too. */
  others: z
    .array(id)
    .max(limits.classesOfAssessment, `Add it to at most ${limits.classesOfAssessment} classes at once.`)
    .default([]),
}

const level = z.object({
  name: named('the level', limits.partName),
  from: decimal('The value', limits.points),
})

/** A calculated column, new or changed. */
const calculated = z
  .object({
    ...shared,
    does: z.enum(doings),
    take: whole('how many are taken', 1, limits.columnParts).nullable(),
    decimals: whole('the decimal places', 0, limits.decimals),
    parts: z
      .array(z.object({ operand, weight: decimal('The weight', limits.weight) }))
      .min(1, 'Choose what it is worked out from.')
      .max(limits.columnParts, `A column can have at most ${limits.columnParts} parts.`),
    levels: z
      .array(level)
      .max(limits.grades, `A column can have at most ${limits.grades} levels.`)
      .refine((levels) => levels.every((l, i) => i === 0 || Number(l.from) < Number(levels[i - 1]?.from)), {
        message: 'Each level must begin below the one above it.',
      }),
  })
  .refine((column) => (column.take !== null) === takes(column.does), {
    path: ['take'],
    message: 'Enter how many are taken.',
  })

const choice = z.object({
  name: named('the choice', limits.partName),
  /** What it counts as in a formula. */
  value: decimal('The value', limits.points).nullable(),
  /** What it was called; its entries follow it. */
  was: z.string().max(limits.partName).nullable(),
})

/** A column that is entered by hand, new or changed. */
const entered = z
  .object({
    ...shared,
    does: z.enum(enterings),
    choices: z
      .array(choice)
      .max(limits.grades, `A column can have at most ${limits.grades} choices.`)
      .refine((all) => new Set(all.map((c) => sameName(c.name))).size === all.length, {
        message: 'Two choices have the same name. Rename one of them.',
      }),
  })
  .refine((column) => column.choices.length > 0 === (column.does === 'choice'), {
    path: ['choices'],
    message: 'Enter what can be chosen.',
  })

/** A column of a gradebook, calculated or entered by hand, new or changed. */
export const columnInput = z.discriminatedUnion('does', [calculated, entered])
export type ColumnInput = z.infer<typeof columnInput>
export type CalculatedInput = z.infer<typeof calculated>

/** Whether what is saved is worked out. */
export const isCalculatedInput = (input: ColumnInput): input is CalculatedInput =>
  (doings as readonly string[]).includes(input.does as Doing)
