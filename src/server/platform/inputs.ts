import { z } from 'zod'
import { isCivilDate } from '@/core/calendar/school-year'

/** An identifier as it stands in addresses. */
export const id = z.uuid('This is not an identifier of Kedge. Check the address.')

/** A civil date. */
export const civilDate = z
  .string()
  .refine(isCivilDate, 'This is not a date. Write day, month and year, such as 23 Nov 2026.')

/** A text that may not be empty, with what it is called. */
export const named = (what: string, longest = 120) =>
  z
    .string()
    .trim()
    .min(1, `${what} is empty. Type it and try again.`)
    .max(longest, `${what} is longer than ${longest} characters.`)

/** An optional line of text; empty counts as none. */
export const optionalLine = (what: string, longest = 200) =>
  z
    .string()
    .trim()
    .max(longest, `${what} is longer than ${longest} characters.`)
    .nullish()
    .transform((text) => text || null)

/** The version a person saw when they made an edit; 0 where there was nothing yet. */
export const expectedVersion = z.number().int().min(0)

/** A decimal with at most two decimals, as text. */
export const decimal = (what: string) =>
  z
    .string()
    .trim()
    .regex(/^\d{1,5}(\.\d{1,2})?$/, `${what} must be a number with at most two decimals, such as 12 or 7.5.`)
