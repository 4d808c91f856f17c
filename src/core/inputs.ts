import { z } from 'zod'
import { isCivilDate } from './calendar/school-year'
import { withoutDirection } from './direction'
import { limits } from './limits'

// The pieces of which inputs are made: what a command takes, a form checks with the same words during typing.

/** An identifier as it stands in addresses. */
export const id = z.uuid('This address is not complete. Go back and open the page again.')

/** A civil date within the years that records of people now alive and their plans can have. */
export const civilDate = z
  .string()
  .refine(isCivilDate, 'This is not a date. Write day, month and year, such as 23 Nov 2026.')
  .refine(
    (date) => limits.firstDate <= date && date <= limits.lastDate,
    `Enter a date from ${limits.firstDate.slice(0, 4)} to ${limits.lastDate.slice(0, 4)}.`,
  )

/** A date of birth of somebody who may be alive. */
export const birthDate = civilDate.refine(
  (date) => date >= limits.firstBirth,
  `Enter a date of birth from ${limits.firstBirth.slice(0, 4)} on.`,
)

/** A pasted name may bring the end of its line or of its column along; in a mail or a file it would begin another. */
const oneLine = (text: string) => withoutDirection(text.replace(/[\t\r\n\u2028\u2029]+/g, ' '))

/** A text of one or more lines that may not be empty, with what it is called. */
export const written = (what: string, longest: number) =>
  z
    .string()
    .overwrite(withoutDirection)
    .trim()
    .min(1, `Enter ${what}.`)
    .max(longest, `Shorten ${what} to at most ${longest} characters.`)

/** A line of text that may not be empty, with what it is called. */
export const named = (what: string, longest: number = limits.name) =>
  z
    .string()
    .overwrite(oneLine)
    .trim()
    .min(1, `Enter ${what}.`)
    .max(longest, `Shorten ${what} to at most ${longest} characters.`)

/** An optional line of text; empty counts as none. */
export const optionalLine = (what: string, longest: number = limits.line) =>
  z
    .string()
    .overwrite(oneLine)
    .trim()
    .max(longest, `Shorten ${what} to at most ${longest} characters.`)
    .nullish()
    .transform((text) => text || null)

/** An optional text of one or more lines; empty counts as none. */
export const optionalText = (what: string, longest: number) =>
  z
    .string()
    .overwrite(withoutDirection)
    .trim()
    .max(longest, `Shorten ${what} to at most ${longest} characters.`)
    .nullish()
    .transform((text) => text || null)

/** The version a person saw when they made an edit; 0 where there was nothing yet. */
export const expectedVersion = z.number().int().min(0).max(limits.version)

/** A decimal with at most two decimals, as text, up to `most`. */
export const decimal = (what: string, most: string) =>
  z
    .string()
    .trim()
    .regex(/^\d{1,9}(\.\d{1,2})?$/, `${what} must be a number with at most two decimals, such as 12 or 7.5.`)
    .refine((text) => Number(text) <= Number(most), `${what} must be at most ${most}.`)

/** Something chosen from a list, by its identifier. */
export const chosen = (what: string) => z.uuid(`Choose ${what}.`)

/** A whole number between two, both included. */
export const whole = (what: string, least: number, most: number) =>
  z
    .number({ error: `Enter ${what} as a whole number.` })
    .int(`Enter ${what} as a whole number.`)
    .min(least, `Enter ${what} from ${least} to ${most}.`)
    .max(most, `Enter ${what} from ${least} to ${most}.`)
