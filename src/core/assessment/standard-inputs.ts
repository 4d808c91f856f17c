import { z } from 'zod'
import { expectedVersion, id, named, optionalLine, written } from '@/core/inputs'
import { limits } from '@/core/limits'
import { inTree } from './standards'

const years = z
  .array(z.string().regex(/^[A-Za-z0-9]{1,8}$/, 'Write years as 07 or K, with spaces between.'))
  .max(limits.standardYears, `Enter at most ${limits.standardYears} years.`)
const words = {
  code: optionalLine('the code', limits.standardCode),
  statement: written('the statement', limits.statement),
  years,
}
const ofSet = { setId: id, expectedVersion }

/** A set of standards: its name, and the subject it is for. */
export const standardSetInput = z.object({
  name: named('the name'),
  subjectId: id.nullable(),
})

/** A whole set, as it was read from a file; whoever sends it gives everything its identifier. */
export const importedSetInput = standardSetInput.extend({
  ...ofSet,
  source: z.string().max(limits.key).nullable(),
  standards: z
    .array(z.object({ id, parentId: id.nullable(), ...words, source: z.string().max(limits.key).nullable() }))
    .min(1, 'There are no standards in this file.')
    .max(limits.standards)
    .refine((all) => new Set(all.map((s) => s.id)).size === all.length, 'A standard appears twice.')
    .refine(
      (all) => inTree(all).left.length === 0,
      'A standard stands under itself, or under one that does not exist.',
    ),
})

/** One standard, under another one or at the top. */
export const standardInput = z.object({ ...ofSet, parentId: id.nullable(), ...words })
