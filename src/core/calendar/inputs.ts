import { z } from 'zod'
import { id, named } from '@/core/inputs'

const day = z.string().max(10)

/** A new academic year with its terms; checkYear says what does not fit. */
export const yearInput = z.object({
  name: z.string().trim().max(20, 'Shorten the name to at most 20 characters.'),
  firstDay: day,
  lastDay: day,
  weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'Choose the days on which there is school.'),
  terms: z.array(z.object({ name: z.string().trim().max(40), firstDay: day, lastDay: day })).max(6),
})

/** Year groups to add, each with the same homerooms. */
export const yearGroupsInput = z.object({
  yearId: id,
  names: z.array(named('the name of each year group', 40)).min(1, 'Enter at least one year group.').max(20),
  homerooms: z.array(named('the name of each homeroom', 40)).max(12),
})
