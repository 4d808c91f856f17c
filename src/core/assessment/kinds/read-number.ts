import type { Rational } from '@/core/marks/rational'

/** A number as somebody wrote it: what it can mean, and what stands after it. */
export interface WrittenNumber {
  /** One reading, or two where a comma may part thousands or decimals. */
  readonly readings: readonly Rational[]
  readonly unit: string
}

const longestExponent = 30
const power = (exponent: number) => 10n ** BigInt(exponent)

/** Digits with at most one decimal point. */
function decimal(whole: string, part: string, exponent: number): Rational {
  const digits = BigInt(whole + part)
  const shift = exponent - part.length
  return shift >= 0 ? { num: digits * power(shift), den: 1n } : { num: digits, den: power(-shift) }
}

const grouped = (text: string, mark: string) => {
  const [first = '', ...rest] = text.split(mark)
  return first.length <= 3 && rest.every((group) => group.length === 3)
}

/** What digits with points and commas can mean. A comma before three digits may part thousands: both count. */
function readingsOf(digits: string, exponent: number): readonly Rational[] {
  const marks = digits.replace(/\d/g, '')
  const read = (text: string, mark: string) => {
    const at = text.lastIndexOf(mark)
    return at < 0 ? decimal(text, '', exponent) : decimal(text.slice(0, at), text.slice(at + 1), exponent)
  }
  const without = (mark: string) => digits.replaceAll(mark, '')
  if (marks === '') return [decimal(digits, '', exponent)]
  if (marks === '.') return [read(digits, '.')]
  if (marks === ',')
    return grouped(digits, ',') && !digits.startsWith('0')
      ? [read(digits, ','), decimal(without(','), '', exponent)]
      : [read(digits, ',')]
  if (/^,+$/.test(marks)) return grouped(digits, ',') ? [decimal(without(','), '', exponent)] : []
  if (/^\.+$/.test(marks)) return grouped(digits, '.') ? [decimal(without('.'), '', exponent)] : []
  if (/^,+\.$/.test(marks))
    return grouped(digits.slice(0, digits.lastIndexOf('.')), ',') ? [read(without(','), '.')] : []
  if (/^\.+,$/.test(marks))
    return grouped(digits.slice(0, digits.lastIndexOf(',')), '.') ? [read(without('.'), ',')] : []
  return []
}

const signed = (sign: string, { num, den }: Rational): Rational => ({ num: sign === '-' ? -num : num, den })
const vulgar = /[\u00bc-\u00be\u2150-\u215e]/g

const fraction = /^([-+]?) ?(?:(\d{1,30}) )?(\d{1,30}) ?\/ ?(\d{1,30})(?!\d)(.*)$/s
const number =
  /^([-+]?) ?((?:\d|[.,](?=\d)| (?=\d{3}(?!\d)))+)(?:e([-+]?\d{1,3})(?!\d)| ?[x×] ?10\^([-+]?\d{1,3})(?!\d))?(.*)$/is

/**
 * Reads a number as people write it: `3.5`, `3,5`, `1 000`, `1e9`, `2 x 10^3`, `½`, `1 1/2`, with a unit behind it or
 * none.
 * @returns undefined where it is no number
 */
export function readNumber(text: string): WrittenNumber | undefined {
  const plain = text
    .replace(vulgar, (c) => ` ${c.normalize('NFKC').replace('\u2044', '/')}`)
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\s'’]+/gu, ' ')
    .trim()
  const parts = fraction.exec(plain)
  if (parts) {
    const [, sign = '', whole = '0', above = '', below = '', unit = ''] = parts
    const den = BigInt(below)
    if (den === 0n) return undefined
    return { readings: [signed(sign, { num: BigInt(whole) * den + BigInt(above), den })], unit: unit.trim() }
  }
  const found = number.exec(plain)
  if (!found) return undefined
  const [, sign = '', spaced = '', e, times, unit = ''] = found
  const digits = (/^[.,]/.test(spaced) ? '0' : '') + spaced.replaceAll(' ', '')
  const exponent = Number(e ?? times ?? 0)
  if (digits.length > 60 || Math.abs(exponent) > longestExponent) return undefined
  const readings = readingsOf(digits, exponent)
  return readings.length > 0
    ? { readings: readings.map((r) => signed(sign, r)), unit: unit.trim() }
    : undefined
}

/** A number without what is needless, for comparing: 3.50 and 3,5 are the same. */
export function sameNumber({ num, den }: Rational): string {
  let [a, b] = [num < 0n ? -num : num, den]
  while (b !== 0n) [a, b] = [b, a % b]
  return a === 0n ? '0' : `${num / a}/${den / a}`
}
