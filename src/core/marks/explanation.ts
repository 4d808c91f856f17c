import type { ScoreEntries, Gradebook } from './gradebook'
import { fromHundredths, fromParts, hundredths, roundHalfUp, writeUnits, type Rational } from './rational'
import {
  categoriesAtWork,
  partsOf,
  termMark,
  type CategoryResult,
  type Dates,
  type TermMark,
  type Treatment,
} from './term-mark'
import { liftsOf } from './what-if'

export interface ExplainedScore {
  readonly assignmentId: string
  readonly name: string
  /** `34/40`, or the word that stands in the cell. */
  readonly scored: string
  readonly percent: string | undefined
  readonly treatment: Treatment
  /** Points that it loses for being late; undefined where it is not late. */
  readonly lost: string | undefined
  readonly extra: boolean
}

export interface ExplainedCategory {
  readonly name: string
  /** Undefined where all points are one pool. */
  readonly weight: string | undefined
  readonly scores: readonly ExplainedScore[]
  /** `75 of 90 points = 83.33`, `Mean of 3 pieces = 81.50`, or why there is nothing. */
  readonly sum: string
}

export interface Contribution {
  readonly category: string
  /** `0.60 × 83.33`, with scaled weights `60/75 × 83.33`, or of one pool `75 of 150 points`. */
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
  /** That it was held at the highest mark there is. */
  readonly held: string | undefined
  readonly whatIf:
    | { readonly name: string; readonly points: string; readonly mark: string; readonly direction: 'lift' }
    | undefined
}

const percentOf = ({ num, den }: Rational, decimals = 2) =>
  writeUnits(roundHalfUp({ num: 100n * num, den }, decimals), decimals)

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

function sumOf({ category, earned, possible, pieces, share, scores }: CategoryResult, parts: number): string {
  if (!share) return 'No scores count here yet.'
  const result = percentOf(share)
  const isExtra = scores.some((s) => s.assignment.extra && s.treatment === 'counted')
  const words =
    category.within === 'pieces'
      ? `Mean of ${pieces} ${pieces === 1 ? 'piece' : 'pieces'}`
      : `${fromParts(earned, parts)} of ${fromParts(possible, parts)} points`
  return `${words}${isExtra ? ', with extra credit,' : ''} = ${result}`
}

function explainCategory(result: CategoryResult, { rules }: Gradebook): ExplainedCategory {
  const { category, scores } = result
  const parts = partsOf(rules)
  const isPool = rules.method === 'points'
  return {
    name: category.name,
    weight: isPool ? undefined : fromHundredths(hundredths(category.weight)),
    scores: scores.map((s) => ({
      assignmentId: s.assignment.id,
      name: s.assignment.name,
      scored:
        s.points !== undefined
          ? `${fromHundredths(s.points)}/${fromHundredths(s.max)}`
          : (s.standing ?? (s.treatment === 'excused' || s.treatment === 'unmarked' ? s.treatment : 'empty')),
      percent:
        s.points !== undefined && s.max > 0
          ? percentOf({ num: BigInt(s.earned), den: BigInt(s.max * parts) }, 1)
          : s.treatment === 'counted as zero'
            ? '0.0'
            : undefined,
      treatment: s.treatment,
      lost: s.late ? fromParts((s.points ?? 0) * parts - s.earned, parts) : undefined,
      extra: s.assignment.extra,
    })),
    sum: sumOf(isPool ? { ...result, category: { ...category, within: 'points' } } : result, parts),
  }
}

function contributionsOf(book: Gradebook, result: TermMark, decimals: number): readonly Contribution[] {
  const reached = result.over ?? result.exact
  if (!reached) return []
  const parts = partsOf(book.rules)
  const isPool = book.rules.method === 'points'
  const whole = result.weightAtWork === 10000
  const weightOf = (c: CategoryResult) =>
    whole
      ? writeUnits(BigInt(c.weight), 4).replace(/(\.\d\d)00$/, '$1')
      : `${fromHundredths(c.weight)}/${fromHundredths(result.weightAtWork)}`
  const made = isPool
    ? result.categories
        .filter((c) => c.possible > 0 || c.earned > 0)
        .map((c) => ({
          name: c.category.name,
          part: { num: 100n * BigInt(c.earned), den: BigInt(result.possible) },
          formula: `${fromParts(c.earned, parts)} of ${fromParts(result.possible, parts)} points`,
        }))
    : categoriesAtWork(result.categories).map((c) => ({
        name: c.category.name,
        part: {
          num: 100n * BigInt(c.weight) * c.share.num,
          den: BigInt(result.weightAtWork) * c.share.den,
        },
        formula: `${weightOf(c)} × ${percentOf(c.share)}`,
      }))
  const rounded = partsThatAddUp(
    made.map((m) => m.part),
    roundHalfUp(reached, decimals),
    decimals,
  )
  return made.map(({ name, formula }, i) => {
    const part = rounded[i] ?? { units: 0n, adjusted: false }
    return { category: name, formula, value: writeUnits(part.units, decimals), adjusted: part.adjusted }
  })
}

function weightsSentence({ rules }: Gradebook, result: TermMark): string | undefined {
  if (rules.method === 'points') return undefined
  const all = result.categories.reduce((sum, c) => sum + c.weight, 0)
  const atWork = fromHundredths(result.weightAtWork)
  const empty = result.categories.filter((c) => !c.share && c.weight > 0).map((c) => c.category.name)
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

/**
 * Opens a term mark into how it came about. The contributions as shown add up to the total as shown, and the
 * total as shown rounds to the mark as shown.
 */
export function explainMark(book: Gradebook, entries: ScoreEntries, dates: Dates): Explanation {
  const result = termMark(book, entries, dates)
  const reached = result.over ?? result.exact
  const decimals = reached ? honestDecimals(reached, book.rules.decimals) : 2
  const [best] = liftsOf(book, entries, dates, result)
  return {
    mark: result.mark,
    grade: result.grade,
    categories: result.categories.map((c) => explainCategory(c, book)),
    contributions: contributionsOf(book, result, decimals),
    total: reached && writeUnits(roundHalfUp(reached, decimals), decimals),
    band: bandSentence(result.grade, book),
    weights: weightsSentence(book, result),
    held: result.over && `The highest mark is ${book.rules.most}.`,
    whatIf: best && { name: best.assignment.name, points: best.points, mark: best.mark, direction: 'lift' },
  }
}
