import { z } from 'zod'
import { civilDate, id, named, optionalLine, seen } from '@/core/inputs'
import { checkCodeSet } from './code-set'
import { meanings } from './codes'

const code = z.object({
  /** Given where it is made, so that a code that is renamed stays the same. */
  id,
  code: z.string().trim().toUpperCase().max(4, 'A code has at most 4 characters.'),
  label: named('what the code means', 60),
  familyLabel: optionalLine('the words for families', 120),
  meaning: z.enum(meanings),
  needsMinutes: z.boolean(),
  needsNote: z.boolean(),
  officeOnly: z.boolean(),
})

/** A set of attendance codes, new or changed, in the order in which they are listed. */
export const codeSetInput = z
  .object({
    setId: id.nullish(),
    seen,
    name: named('a name', 60),
    firstDay: civilDate,
    /** The last day of use; none while it is open-ended. */
    lastDay: civilDate.nullish().or(z.literal('').transform(() => null)),
    codes: z.array(code).min(1, 'Add the codes of the set.').max(60),
  })
  .superRefine(({ firstDay, lastDay, codes }, context) => {
    if (lastDay && lastDay < firstDay)
      context.addIssue({
        code: 'custom',
        path: ['lastDay'],
        message: 'The last day must not be before the first day.',
      })
    for (const { path, message } of checkCodeSet(codes))
      context.addIssue({ code: 'custom', path: ['codes', ...path], message })
  })
