import type { CivilDate } from '@/core/calendar/school-year'
import type { Assignment, Category, Gradebook, GradebookRules, GradingBand, ScoreEntries } from './gradebook'
import { hundredths, roundHalfUp, writeUnits, type Rational } from './rational'

/** How one cell entered, or did not enter, its category. */
export type Treatment =
  | 'counted'
  | 'counted as zero'
  | 'dropped'
  | 'excused'
  | 'missing'
  | 'incomplete'
  | 'unmarked'
  | 'empty'
  | 'does not count'

export interface TreatedScore {
  readonly assignment: Assignment
  readonly treatment: Treatment
  /** What stands in the cell in place of points; it may still count as zero or be dropped. */
  readonly standing: 'missing' | 'incomplete' | undefined
  readonly late: boolean
  /** Points in hundredths; undefined where there are none. */
  readonly points: number | undefined
  /** What counts of them, in parts: less what late work loses. */
  readonly earned: number
  /** Maximum in hundredths. */
  readonly max: number
}

export interface CategoryResult {
  readonly category: Category
  /** Weight in hundredths. */
  readonly weight: number
  readonly scores: readonly TreatedScore[]
  /** Sums over what counts, in parts; extra credit is in what was earned alone. */
  readonly earned: number
  readonly possible: number
  /** How many pieces count, without extra credit. */
  readonly pieces: number
  /** What was earned of what could be: by points, or each piece alike; undefined while nothing counts. */
  readonly share: Rational | undefined
}

export interface TermMark {
  /** The exact percentage, before the one rounding; undefined when nothing counts yet. */
  readonly exact: Rational | undefined
  /** The exact percentage before it was held at the highest there is; undefined where it was not. */
  readonly over: Rational | undefined
  /** The mark as shown, with the stated decimals. */
  readonly mark: string | undefined
  readonly grade: string | undefined
  readonly categories: readonly CategoryResult[]
  /** Sum of the weights of the categories in which something counts, in hundredths; 0 where all points are one pool. */
  readonly weightAtWork: number
  /** All that could be earned, in parts. */
  readonly possible: number
}

/**
 * How many parts a hundredth of a point has. Where late work loses a percentage with two decimals, points are counted
 * in ten-thousandths of a hundredth, so that nothing is rounded; elsewhere in hundredths. Sums stay whole numbers.
 */
export const partsOf = ({ late }: GradebookRules): number => (late ? 10_000 : 1)

export interface Dates {
  /** Work is due when its due date lies before this day. */
  readonly on: CivilDate
  /** The day the student joined the class; empty work that was due before it counts nothing. */
  readonly since: CivilDate
}

/** What is the same for every student of a gradebook, worked out once. */
interface Plan {
  readonly parts: number
  /** What late work loses, in hundredths of a per cent. */
  readonly latePercent: number
  readonly categories: readonly {
    readonly category: Category
    readonly weight: number
    readonly assignments: readonly { readonly assignment: Assignment; readonly max: number }[]
  }[]
}

const plans = new WeakMap<Gradebook, Plan>()

function planOf(book: Gradebook): Plan {
  const known = plans.get(book)
  if (known) return known
  const { late } = book.rules
  const made = {
    parts: partsOf(book.rules),
    latePercent: late ? hundredths(late.percent) : 0,
    categories: book.categories.map((category) => ({
      category,
      weight: hundredths(category.weight),
      assignments: book.assignments
        .filter((a) => a.categoryId === category.id)
        .map((assignment) => ({ assignment, max: hundredths(assignment.maxPoints) })),
    })),
  }
  plans.set(book, made)
  return made
}

/** What work without points comes to: a standing, or nothing at all. */
function treatmentWithout(
  rules: GradebookRules,
  assignment: Assignment,
  standing: 'missing' | 'incomplete' | undefined,
  { on, since }: Dates,
): Treatment {
  // Nobody loses by extra work that is not done.
  if (standing) {
    const counting = standing === 'missing' ? rules.missingCounts : rules.incompleteCounts
    return counting === 'zero' && !assignment.extra ? 'counted as zero' : standing
  }
  const isDue = since <= assignment.dueOn && assignment.dueOn < on
  return rules.emptyCounts === 'zero after due' && isDue && !assignment.extra ? 'counted as zero' : 'empty'
}

function treat(
  { rules }: Gradebook,
  { parts, latePercent }: Plan,
  { assignment, max }: Plan['categories'][number]['assignments'][number],
  entries: ScoreEntries,
  dates: Dates,
): TreatedScore {
  const entry = entries.get(assignment.id)
  const kind = entry?.kind
  const points = kind === 'points' ? hundredths(entry?.points ?? '0') : undefined
  const late = kind === 'points' && entry?.late === true
  const lost =
    late && points !== undefined
      ? Math.min(points * parts, (rules.late?.of === 'points possible' ? max : points) * latePercent)
      : 0
  const standing = kind === 'missing' || kind === 'incomplete' ? kind : undefined
  return {
    assignment,
    treatment:
      // Work without points cannot change a mark, and would only take the place of a score that is dropped.
      !assignment.counts || max === 0
        ? 'does not count'
        : kind === 'points'
          ? 'counted'
          : // A total that is not final would pull the mark down until everything is marked.
            kind === 'excused' || kind === 'unmarked'
            ? kind
            : treatmentWithout(rules, assignment, standing, dates),
    standing,
    late,
    points,
    earned: points === undefined ? 0 : points * parts - lost,
    max,
  }
}

const enters = (score: TreatedScore) => score.treatment === 'counted' || score.treatment === 'counted as zero'

/** Below zero where the first has the lower share of its maximum. */
function compareShares(a: TreatedScore, b: TreatedScore): number {
  const [left, right] = [a.earned * b.max, b.earned * a.max]
  if (left <= Number.MAX_SAFE_INTEGER && right <= Number.MAX_SAFE_INTEGER) return left - right
  const exact = BigInt(a.earned) * BigInt(b.max) - BigInt(b.earned) * BigInt(a.max)
  return exact < 0n ? -1 : exact > 0n ? 1 : 0
}

/**
 * Marks the lowest shares of points as dropped; of equal shares the one due earlier goes first, of those the older one. At least one stays, and
 * extra credit is never dropped.
 */
function dropLowest(scores: readonly TreatedScore[], count: number): readonly TreatedScore[] {
  if (count === 0) return scores
  const counted = scores.filter((s) => enters(s) && !s.assignment.extra)
  const going = Math.min(count, counted.length - 1)
  if (going <= 0) return scores
  const lowestFirst = [...counted].sort(
    (a, b) =>
      compareShares(a, b) ||
      (a.assignment.dueOn < b.assignment.dueOn ? -1 : a.assignment.dueOn > b.assignment.dueOn ? 1 : 0) ||
      // Whatever order they are shown in.
      (a.assignment.id < b.assignment.id ? -1 : 1),
  )
  const dropped = new Set(lowestFirst.slice(0, going))
  return scores.map((score) => (dropped.has(score) ? { ...score, treatment: 'dropped' } : score))
}

/** The mean of the shares of pieces, each as much as another; extra credit adds its share on top. */
function meanShare(counted: readonly TreatedScore[], pieces: number, parts: number): Rational {
  // Pieces out of the same maximum are added up first: a gradebook has few different ones.
  const byMax = new Map<number, number>()
  for (const { max, earned } of counted) byMax.set(max, (byMax.get(max) ?? 0) + earned)
  const den = [...byMax.keys()].reduce((product, max) => product * BigInt(max), BigInt(parts))
  const num = [...byMax].reduce((sum, [max, earned]) => sum + (BigInt(earned) * den) / BigInt(max), 0n)
  return { num, den: den * BigInt(parts) * BigInt(pieces) }
}

function resultOfCategory(
  book: Gradebook,
  plan: Plan,
  { category, weight, assignments }: Plan['categories'][number],
  entries: ScoreEntries,
  dates: Dates,
): CategoryResult {
  const { parts } = plan
  const scores = dropLowest(
    assignments.map((a) => treat(book, plan, a, entries, dates)),
    category.dropLowest,
  )
  let earned = 0
  let possible = 0
  let pieces = 0
  for (const score of scores) {
    if (!enters(score)) continue
    earned += score.earned
    if (score.assignment.extra) continue
    possible += score.max * parts
    pieces++
  }
  return {
    category,
    weight,
    scores,
    earned,
    possible,
    pieces,
    share:
      possible === 0
        ? undefined
        : category.within === 'pieces' && book.rules.method === 'weights'
          ? meanShare(scores.filter(enters), pieces, parts)
          : { num: BigInt(earned), den: BigInt(possible) },
  }
}

/** The grade of a mark as shown: the highest band it reaches. */
export function gradeOf(mark: string, bands: readonly GradingBand[]): string | undefined {
  return bands.find((band) => Number(mark) >= Number(band.fromPercent))?.grade
}

/** The weighted mean of the categories' shares, in percent. */
function weighted(atWork: readonly (CategoryResult & { share: Rational })[], weightAtWork: number): Rational {
  const common = atWork.reduce((product, c) => product * c.share.den, 1n)
  const sum = atWork.reduce((total, c) => total + (BigInt(c.weight) * c.share.num * common) / c.share.den, 0n)
  return { num: 100n * sum, den: BigInt(weightAtWork) * common }
}

/** The categories that a mark is made of where they have weights. */
export const categoriesAtWork = (categories: readonly CategoryResult[]) =>
  categories.filter((c): c is CategoryResult & { share: Rational } => c.share !== undefined && c.weight > 0)

/**
 * A student's term mark: within each category all counted points over all possible points, or each piece alike, the
 * categories then weighted; or all points in one pool. Where a category holds nothing yet, the other weights share the
 * whole. Exact fractions throughout, rounded once at the end, half up.
 *
 * @param entries the student's cells by assignment id
 * @param dates the real or chosen date, which decides what is past its due date, and the day the student joined
 */
export function termMark(book: Gradebook, entries: ScoreEntries, dates: Dates): TermMark {
  const { method, decimals, most, bands } = book.rules
  const plan = planOf(book)
  const categories = plan.categories.map((c) => resultOfCategory(book, plan, c, entries, dates))
  const atWork = method === 'weights' ? categoriesAtWork(categories) : []
  const weightAtWork = atWork.reduce((sum, c) => sum + c.weight, 0)
  const earned = categories.reduce((sum, c) => sum + c.earned, 0)
  const possible = categories.reduce((sum, c) => sum + c.possible, 0)
  const about = { categories, weightAtWork, possible }
  if (method === 'weights' ? atWork.length === 0 : possible === 0)
    return { exact: undefined, over: undefined, mark: undefined, grade: undefined, ...about }
  const reached =
    method === 'weights'
      ? weighted(atWork, weightAtWork)
      : { num: 100n * BigInt(earned), den: BigInt(possible) }
  const isOver = most !== null && 100n * reached.num > BigInt(hundredths(most)) * reached.den
  const exact = isOver ? { num: BigInt(hundredths(most)), den: 100n } : reached
  const mark = writeUnits(roundHalfUp(exact, decimals), decimals)
  return { exact, over: isOver ? reached : undefined, mark, grade: gradeOf(mark, bands), ...about }
}
