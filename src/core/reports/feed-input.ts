import { z } from 'zod'
import { expectedVersion, id } from '@/core/inputs'
import { limits } from '@/core/limits'

/** What fills lines of a round's reports in classes; nothing for a line that is to be settled again. */
export const feedsInput = z.object({
  roundId: id,
  feeds: z
    .array(
      z.object({
        classId: id,
        lineId: id,
        /** A column of the class, or null for the mark of the round's term. */
        columnId: id.nullable(),
        expectedVersion,
      }),
    )
    .min(1, 'Choose at least one line.')
    .max(limits.feeds, `Save at most ${limits.feeds} lines at once.`)
    .refine((all) => new Set(all.map((f) => `${f.classId} ${f.lineId}`)).size === all.length, {
      message: 'A line of a class can be filled by one column only.',
    }),
})
