import type { CivilDate } from '@/core/calendar/school-year'
import type { Assignment, Category, ScoreEntries, Gradebook, GradingBand } from './gradebook'
import { hundredths, roundHalfUp, writeUnits, type Rational } from './rational'

/** How one cell entered, or did not enter, its category. */
export type Treatment =
  'counted' | 'counted as zero' | 'dropped' | 'excused' | 'missing' | 'unmarked' | 'empty' | 'does not count'

export interface TreatedScore {
  readonly assignment: Assignment
  readonly treatment: Treatment
  /** Whether the cell says missing; it may still count as zero or be dropped. */
  readonly missing: boolean
  /** Points in hundredths; undefined where there are none. */
  readonly points: number | undefined
  /** Maximum in hundredths. */
  readonly max: number
}

export interface CategoryResult {
  readonly category: Category
  /** Weight in hundredths. */
  readonly weight: number
  readonly scores: readonly TreatedScore[]
  /** Sums over what counts, in hundredths of a point. */
  readonly earned: number
  readonly possible: number
}

export interface TermMark {
  /** The exact percentage, before the one rounding; undefined when nothing counts yet. */
  readonly exact: Rational | undefined
  /** The mark as shown, with the stated decimals. */
  readonly mark: string | undefined
  readonly grade: string | undefined
  readonly categories: readonly CategoryResult[]
  /** Sum of the weights of the categories in which something counts, in hundredths. */
  readonly weightAtWork: number
}

const treatments = {
  excused: 'excused',
  missing: { nothing: 'missing', zero: 'counted as zero' },
} as const

export interface Dates {
  /** Work is due when its due date lies before this day. */
  readonly on: CivilDate
  /** The day the student joined the class; empty work that was due before it counts nothing. */
  readonly since: CivilDate
}

function treat(
  book: Gradebook,
  assignment: Assignment,
  entries: ScoreEntries,
  { on, since }: Dates,
): TreatedScore {
  const entry = entries.get(assignment.id)
  const max = hundredths(assignment.maxPoints)
  const missing = entry?.kind === 'missing'
  const points = entry?.kind === 'points' ? hundredths(entry.points) : undefined
  const result = (treatment: Treatment) => ({ assignment, treatment, missing, points, max })
  // Work without points cannot change a mark, and would only take the place of a score that is dropped.
  if (!assignment.counts || max === 0) return result('does not count')
  if (entry?.kind === 'excused') return result(treatments.excused)
  // A total that is not final would pull the mark down until everything is marked.
  if (entry?.kind === 'unmarked') return result('unmarked')
  if (entry?.kind === 'missing') return result(treatments.missing[book.rules.missingCounts])
  if (entry) return result('counted')
  const isDue = since <= assignment.dueOn && assignment.dueOn < on
  return result(book.rules.emptyCounts === 'zero after due' && isDue ? 'counted as zero' : 'empty')
}

const enters = (score: TreatedScore) => score.treatment === 'counted' || score.treatment === 'counted as zero'

/** Marks the lowest shares of points as dropped; of equal shares the one due earlier goes first. At least one stays. */
function dropLowest(scores: readonly TreatedScore[], count: number): readonly TreatedScore[] {
  const counted = scores.filter(enters)
  const going = Math.min(count, counted.length - 1)
  if (going <= 0) return scores
  const lowestFirst = [...counted].sort(
    (a, b) =>
      (a.points ?? 0) * b.max - (b.points ?? 0) * a.max ||
      (a.assignment.dueOn < b.assignment.dueOn ? -1 : a.assignment.dueOn > b.assignment.dueOn ? 1 : 0),
  )
  const dropped = new Set(lowestFirst.slice(0, going))
  return scores.map((score) => (dropped.has(score) ? { ...score, treatment: 'dropped' } : score))
}

/** The grade of a mark as shown: the highest band it reaches. */
export function gradeOf(mark: string, bands: readonly GradingBand[]): string | undefined {
  return bands.find((band) => Number(mark) >= Number(band.fromPercent))?.grade
}

/**
 * A student's term mark: within each category all counted points over all possible points, the categories then
 * weighted. Where a category holds nothing yet, the other weights share the whole. Exact fractions throughout,
 * rounded once at the end, half up.
 *
 * @param entries the student's cells by assignment id
 * @param dates the real or chosen date, which decides what is past its due date, and the day the student joined
 */
export function termMark(book: Gradebook, entries: ScoreEntries, dates: Dates): TermMark {
  const categories = book.categories.map((category): CategoryResult => {
    const treated = book.assignments
      .filter((a) => a.categoryId === category.id)
      .map((a) => treat(book, a, entries, dates))
    const scores = dropLowest(treated, category.dropLowest)
    const counted = scores.filter(enters)
    return {
      category,
      weight: hundredths(category.weight),
      scores,
      earned: counted.reduce((sum, s) => sum + (s.points ?? 0), 0),
      possible: counted.reduce((sum, s) => sum + s.max, 0),
    }
  })
  const atWork = categories.filter((c) => c.possible > 0 && c.weight > 0)
  const weightAtWork = atWork.reduce((sum, c) => sum + c.weight, 0)
  if (atWork.length === 0)
    return { exact: undefined, mark: undefined, grade: undefined, categories, weightAtWork }

  const common = atWork.reduce((product, c) => product * BigInt(c.possible), 1n)
  const weighted = atWork.reduce(
    (sum, c) => sum + (BigInt(c.weight) * BigInt(c.earned) * common) / BigInt(c.possible),
    0n,
  )
  const exact = { num: 100n * weighted, den: BigInt(weightAtWork) * common }
  const mark = writeUnits(roundHalfUp(exact, book.rules.decimals), book.rules.decimals)
  return { exact, mark, grade: gradeOf(mark, book.rules.bands), categories, weightAtWork }
}
