import { limits } from '@/core/limits'
import type { Rational } from '@/core/marks/rational'
import { everything, groupAlike, nothing, quoted, unquoted, type Kind } from './kind'
import { readNumber, sameNumber } from './read-number'

interface Content {
  /** As the teacher wrote it; null without a key. */
  readonly right: string | null
  /** How far an answer may be off, as a decimal. */
  readonly tolerance: string
  readonly toleranceIn: 'units' | 'percent'
  /** Shown beside the field; an answer may repeat it. */
  readonly unit: string | null
}

const plainUnit = (unit: string) => unit.replace(/\s/g, '').toLowerCase()
const size = (value: bigint) => (value < 0n ? -value : value)

/** Whether two numbers are at most so far apart: |a - b| <= tolerance, or that share of b. */
function isNear(a: Rational, b: Rational, tolerance: Rational, inPercent: boolean): boolean {
  const apart = size(a.num * b.den - b.num * a.den) * tolerance.den
  return inPercent
    ? apart * 100n <= size(b.num) * a.den * tolerance.num
    : apart <= tolerance.num * a.den * b.den
}

const numbers = new Map<string, ReturnType<typeof readNumber>>()
/** The same few numbers come back in many answers. */
function readOnce(text: string) {
  if (numbers.has(text)) return numbers.get(text)
  if (numbers.size > 5000) numbers.clear()
  const read = readNumber(text)
  numbers.set(text, read)
  return read
}

/** What a response may mean in the question's unit; nothing where it is no number, or in another unit. */
function meant(response: string, unit: string | null): readonly Rational[] {
  const read = readOnce(response)
  if (!read) return []
  if (read.unit !== '' && plainUnit(read.unit) !== plainUnit(unit ?? '')) return []
  return read.readings
}

/** A number, with a comma or a point, as a fraction or in powers of ten; a response is what was written. */
export const number: Kind<'number', Content, string> = {
  name: 'number',
  words: 'Number',
  example: '3.5',
  grows: true,
  byHand: false,
  schemas: (z) => ({
    content: z.object({
      right: z
        .string()
        .trim()
        .max(limits.numberText)
        .refine((text) => readNumber(text)?.unit === '', 'The key must be a number, such as 12, 3.5 or 1/2.')
        .nullable(),
      tolerance: z
        .string()
        .trim()
        .max(limits.numberText)
        .refine(
          (text) => /^\d{1,9}([.,]\d{1,9})?$/.test(text),
          'The tolerance must be a number of at least 0, such as 0.5.',
        ),
      toleranceIn: z.enum(['units', 'percent']),
      unit: z
        .string()
        .trim()
        .max(limits.unit, `Shorten the unit to at most ${limits.unit} characters.`)
        .nullable(),
    }),
    response: z.string().trim().min(1).max(limits.shortResponse),
  }),
  start: () => ({ right: null, tolerance: '0', toleranceIn: 'units', unit: null }),
  unkeyed: (content) => ({ ...content, right: null }),
  isKeyed: ({ right }) => right !== null,
  score: ({ right, tolerance, toleranceIn, unit }, response) => {
    if (right === null) return undefined
    const wanted = readOnce(right)?.readings[0]
    const allowed = readOnce(tolerance)?.readings[0]
    if (!wanted || !allowed) return nothing
    return meant(response, unit).some((value) => isNear(value, wanted, allowed, toleranceIn === 'percent'))
      ? everything
      : nothing
  },
  misfit: () => undefined,
  // With a unit, or where it is no number, it stands between quotation marks.
  token:
    /["“”][^"“”]*["“”]?|[-+\u2212]?(?:\d+(?:[.,]\d+)*(?:e[-+]?\d{1,3})?(?:\/\d+)?[\u00bc-\u00be\u2150-\u215e]?|[\u00bc-\u00be\u2150-\u215e])|[a-z]/iy,
  read: (text) => {
    const value = unquoted(text)
    if (/^["“”]/.test(text) && value !== '') return { value }
    return readNumber(text) ? { value: text } : { problem: `${text} is not a number` }
  },
  cell: (text) => number.show(text),
  readKey: (text, content) =>
    readNumber(unquoted(text))?.unit === ''
      ? { value: { ...content, right: unquoted(text) } }
      : { problem: `${text} is not a number` },
  show: (response) => (/^[-+\u2212]?\d+([.,]\d+)*$/.test(response) ? response : quoted(response)),
  showKey: ({ right }) => (right === null ? '' : number.show(right)),
  tally: (content, responses) =>
    groupAlike(
      responses,
      (value) => {
        const [first] = meant(value, content.unit)
        return first ? sameNumber(first) : `not a number: ${value}`
      },
      (value) => value,
      (value) => number.score(content, value),
    ),
}
