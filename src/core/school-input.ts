import { z } from 'zod'
import { isTimeZone } from '@/core/calendar/time-zone'
import { expectedVersion, named, optionalLine } from '@/core/inputs'
import { limits } from '@/core/limits'

/** What a school says of itself. */
export const schoolInput = z.object({
  expectedVersion,
  name: named('the name of the school', limits.name),
  /** Stands on certificates. */
  address: optionalLine('the address'),
  timeZone: z
    .string()
    .max(limits.shortName)
    .refine(isTimeZone, 'This is not a time zone. Write one such as Europe/London.'),
})
