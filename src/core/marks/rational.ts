/** An exact fraction; `den` is positive. Not reduced: reduce where it is kept for long. */
export interface Rational {
  readonly num: bigint
  readonly den: bigint
}

// A gradebook's few hundred different scores come back in thousands of cells.
const read = new Map<string, number>()

/**
 * Hundredths of a decimal text with at most two decimals: `41.5` is 4150.
 * @throws RangeError when the text is no such decimal
 */
export function hundredths(decimal: string): number {
  const known = read.get(decimal)
  if (known !== undefined) return known
  const value = readHundredths(decimal)
  if (read.size < 10000) read.set(decimal, value)
  return value
}

function readHundredths(decimal: string): number {
  const parts = /^(\d{1,9})(?:\.(\d{1,2})0*)?$/.exec(decimal)
  if (!parts) throw new RangeError(`"${decimal}" is not a number with at most two decimals`)
  return Number(parts[1]) * 100 + Number((parts[2] ?? '').padEnd(2, '0'))
}

/** A decimal text without needless zeros: 4150 hundredths is `41.5`. */
export function fromHundredths(value: number): string {
  const text = `${Math.floor(value / 100)}.${String(value % 100).padStart(2, '0')}`
  return text.replace(/\.?0+$/, '')
}

/** A number of parts of a hundredth as a decimal text: 65250 at 10000 parts is `0.06525`. */
export function fromParts(value: number, parts: number): string {
  const decimals = 2 + Math.round(Math.log10(parts))
  const text = writeUnits(BigInt(value), decimals)
  return text.replace(/\.?0+$/, '')
}

/** Rounds half up, for values of at least zero; the result counts units of 10^-decimals. */
export function roundHalfUp({ num, den }: Rational, decimals: number): bigint {
  return (2n * 10n ** BigInt(decimals) * num + den) / (2n * den)
}

/** Writes a count of units of 10^-decimals with exactly that many decimals: 832 at 1 is `83.2`. */
export function writeUnits(units: bigint, decimals: number): string {
  if (decimals === 0) return String(units)
  const text = String(units).padStart(decimals + 1, '0')
  return `${text.slice(0, -decimals)}.${text.slice(-decimals)}`
}
