import type { ScoreEntries, Gradebook } from './gradebook'
import { fromHundredths, hundredths, roundHalfUp, writeUnits, type Rational } from './rational'
import { termMark, type CategoryResult, type Dates, type TermMark, type Treatment } from './term-mark'

export interface ExplainedScore {
  readonly assignmentId: string
  readonly name: string
  /** `34/40`, or the word that stands in the cell. */
  readonly scored: string
  readonly percent: string | undefined
  readonly treatment: Treatment
}

export interface ExplainedCategory {
  readonly name: string
  readonly weight: string
  readonly scores: readonly ExplainedScore[]
  /** `75 of 90 points = 83.33`, or why there is nothing. */
  readonly sum: string
}

export interface Contribution {
  readonly category: string
  /** `0.60 × 83.33`, or with scaled weights `60/75 × 83.33`. */
  readonly formula: string
  readonly value: string
  /** Whether the last digit was moved so that the parts add up to the whole. */
  readonly adjusted: boolean
}

export interface Explanation {
  readonly mark: string | undefined
  readonly grade: string | undefined
  readonly categories: readonly ExplainedCategory[]
  readonly contributions: readonly Contribution[]
  /** The sum of the contributions, exactly as they are shown. */
  readonly total: string | undefined
  /** `B is 80 to under 90.` */
  readonly band: string | undefined
  /** What is unusual about the weights, in a sentence. */
  readonly weights: string | undefined
  readonly whatIf:
    | { readonly name: string; readonly points: string; readonly mark: string; readonly direction: 'lift' }
    | undefined
}

const percentText = (earned: number, possible: number, decimals = 2) =>
  writeUnits(roundHalfUp({ num: 100n * BigInt(earned), den: BigInt(possible) }, decimals), decimals)

/**
 * Decimals at which the rounded total still rounds to the mark shown: two, or more where two would mislead
 * (83.2499 is 83.2, but written 83.25 would look like 83.3).
 */
function honestDecimals(exact: Rational, markDecimals: number): number {
  const shown = roundHalfUp(exact, markDecimals)
  for (let decimals = Math.max(2, markDecimals); decimals < 60; decimals++) {
    const total = { num: roundHalfUp(exact, decimals), den: 10n ** BigInt(decimals) }
    if (roundHalfUp(total, markDecimals) === shown) return decimals
  }
  throw new Error('a fraction with denominators of this size settles long before sixty decimals')
}

/** Rounds parts so that they add up exactly to their rounded total: the largest remainders take the missing units. */
export function partsThatAddUp(
  parts: readonly Rational[],
  total: bigint,
  decimals: number,
): readonly { units: bigint; adjusted: boolean }[] {
  const scale = 10n ** BigInt(decimals)
  const floors = parts.map((p) => (p.num * scale) / p.den)
  const missing = Number(total - floors.reduce((sum, f) => sum + f, 0n))
  const byRemainder = parts
    .map((p, i) => ({ i, remainder: Number((((p.num * scale) % p.den) * 1_000_000n) / p.den) }))
    .sort((a, b) => b.remainder - a.remainder || a.i - b.i)
  const up = new Set(byRemainder.slice(0, missing).map((x) => x.i))
  return floors.map((floor, i) => {
    const units = floor + (up.has(i) ? 1n : 0n)
    return { units, adjusted: units !== roundHalfUp(parts[i] ?? { num: 0n, den: 1n }, decimals) }
  })
}

function explainCategory({ category, scores, earned, possible }: CategoryResult): ExplainedCategory {
  return {
    name: category.name,
    weight: fromHundredths(hundredths(category.weight)),
    scores: scores.map((s) => ({
      assignmentId: s.assignment.id,
      name: s.assignment.name,
      scored:
        s.points !== undefined
          ? `${fromHundredths(s.points)}/${fromHundredths(s.max)}`
          : s.missing
            ? 'missing'
            : s.treatment === 'excused' || s.treatment === 'unmarked'
              ? s.treatment
              : 'empty',
      percent:
        s.points !== undefined && s.max > 0
          ? percentText(s.points, s.max, 1)
          : s.treatment === 'counted as zero'
            ? '0.0'
            : undefined,
      treatment: s.treatment,
    })),
    sum:
      possible > 0
        ? `${fromHundredths(earned)} of ${fromHundredths(possible)} points = ${percentText(earned, possible)}`
        : 'No scores count here yet.',
  }
}

function contributionsOf(result: TermMark, decimals: number): readonly Contribution[] {
  if (!result.exact) return []
  const atWork = result.categories.filter((c) => c.possible > 0 && c.weight > 0)
  const parts = atWork.map((c) => ({
    num: 100n * BigInt(c.weight) * BigInt(c.earned),
    den: BigInt(result.weightAtWork) * BigInt(c.possible),
  }))
  const rounded = partsThatAddUp(parts, roundHalfUp(result.exact, decimals), decimals)
  const whole = result.weightAtWork === 10000
  return atWork.map((c, i) => {
    const weight = whole
      ? writeUnits(BigInt(c.weight), 4).replace(/(\.\d\d)00$/, '$1')
      : `${fromHundredths(c.weight)}/${fromHundredths(result.weightAtWork)}`
    const part = rounded[i] ?? { units: 0n, adjusted: false }
    return {
      category: c.category.name,
      formula: `${weight} × ${percentText(c.earned, c.possible)}`,
      value: writeUnits(part.units, decimals),
      adjusted: part.adjusted,
    }
  })
}

function weightsSentence(result: TermMark): string | undefined {
  const all = result.categories.reduce((sum, c) => sum + c.weight, 0)
  const atWork = fromHundredths(result.weightAtWork)
  const empty = result.categories.filter((c) => c.possible === 0 && c.weight > 0).map((c) => c.category.name)
  if (result.weightAtWork === 10000 || result.weightAtWork === 0) return undefined
  const because =
    empty.length > 0
      ? `No scores count yet in ${empty.join(' and ')}`
      : `The weights add up to ${fromHundredths(all)}, not 100`
  return `${because}, so each weight counts as a share of ${atWork}.`
}

function bandSentence(grade: string | undefined, book: Gradebook): string | undefined {
  const index = book.rules.bands.findIndex((b) => b.grade === grade)
  const band = book.rules.bands[index]
  if (!band) return undefined
  const above = book.rules.bands[index - 1]
  const from = fromHundredths(hundredths(band.fromPercent))
  return above
    ? `${band.grade} is ${from} to under ${fromHundredths(hundredths(above.fromPercent))}.`
    : `${band.grade} is ${from} or more.`
}

/** The missing or overdue work that would lift the mark most at full points; undefined when none would. */
function bestWhatIf(
  book: Gradebook,
  entries: ScoreEntries,
  dates: Dates,
  now: TermMark,
): Explanation['whatIf'] {
  const open = now.categories
    .flatMap((c) => c.scores)
    .filter((s) => s.missing || (s.treatment === 'counted as zero' && s.points === undefined))
  const lifted = open.map((s) => ({
    name: s.assignment.name,
    points: fromHundredths(s.max),
    mark: termMark(
      book,
      new Map(entries).set(s.assignment.id, { kind: 'points', points: fromHundredths(s.max) }),
      dates,
    ).mark,
  }))
  const best = lifted.reduce<(typeof lifted)[number] | undefined>(
    (a, b) => (a && Number(a.mark) >= Number(b.mark) ? a : b),
    undefined,
  )
  if (!best?.mark || Number(best.mark) <= Number(now.mark ?? -1)) return undefined
  return { name: best.name, points: best.points, mark: best.mark, direction: 'lift' }
}

/**
 * Opens a term mark into how it came about. The contributions as shown add up to the total as shown, and the
 * total as shown rounds to the mark as shown.
 */
export function explainMark(book: Gradebook, entries: ScoreEntries, dates: Dates): Explanation {
  const result = termMark(book, entries, dates)
  const decimals = result.exact ? honestDecimals(result.exact, book.rules.decimals) : 2
  return {
    mark: result.mark,
    grade: result.grade,
    categories: result.categories.map(explainCategory),
    contributions: contributionsOf(result, decimals),
    total: result.exact && writeUnits(roundHalfUp(result.exact, decimals), decimals),
    band: bandSentence(result.grade, book),
    weights: weightsSentence(result),
    whatIf: bestWhatIf(book, entries, dates, result),
  }
}
