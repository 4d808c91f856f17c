import { hundredths } from '@/core/marks/rational'
import { mostOf, type AskedQuestion } from './scoring'

/** Where a level begins: at a share of the points, or at so many of them; a decimal as text. */
export type Threshold = { readonly percent: string } | { readonly points: string }

export interface Level {
  readonly name: string
  /** Null for the lowest, which everybody reaches. */
  readonly from: Threshold | null
}

/** What an assessment begins with, the highest first. */
export const usualLevels: readonly Level[] = [
  { name: 'secure', from: { percent: '80' } },
  { name: 'nearly', from: { percent: '60' } },
  { name: 'not yet', from: null },
]

/** Whether a total reaches a threshold, compared exactly. Without any points nobody reaches more than the lowest level. */
export function reaches(points: number, most: number, from: Threshold): boolean {
  if (most === 0) return false
  return 'percent' in from
    ? points * 10000 >= hundredths(from.percent) * most
    : points >= hundredths(from.points)
}

/** Which of the levels a total reaches, counted from the highest, 0. Points and the most of them in hundredths. */
export function levelOf(points: number, most: number, levels: readonly Level[]): number {
  const found = levels.findIndex(({ from }) => from === null || reaches(points, most, from))
  return found < 0 ? levels.length - 1 : found
}

/** A threshold in points, as a fraction of hundredths: `num / den`. */
const inPoints = (from: Threshold, most: number) =>
  'percent' in from
    ? { num: hundredths(from.percent) * most, den: 10000 }
    : { num: hundredths(from.points), den: 1 }

/** What a threshold comes to in the other measure, for reading beside it: points with two decimals, percent with one. */
export function otherMeasure(from: Threshold, most: number): string {
  if (most === 0) return ''
  return 'percent' in from
    ? `${Number(((hundredths(from.percent) * most) / 1_000_000).toFixed(2))} points`
    : `${Number(((100 * hundredths(from.points)) / most).toFixed(1))}%`
}

/** Sums above which points are taken to be reachable without looking. */
const longest = 200_000

/** Every total in hundredths that full or no points for each question can make; undefined where parts of points can be had. */
function totals(questions: readonly AskedQuestion[]): ReadonlySet<number> | undefined {
  const counted = questions.filter((q) => q.counts !== 'dropped')
  const inParts = counted.some(
    (q) =>
      q.kind === 'written' ||
      (q.kind === 'several choices' && q.content.rule === 'each right less each wrong'),
  )
  if (inParts) return undefined
  let found = new Set([0])
  for (const question of counted) {
    const own = hundredths(question.points)
    const next = new Set(question.counts === 'given' ? [] : found)
    for (const total of found) next.add(total + own)
    if (next.size > longest) return undefined
    found = next
  }
  return found
}

/** The levels that nobody can reach with the points of these questions, as places in the list. */
export function unreachable(
  levels: readonly Level[],
  questions: readonly AskedQuestion[],
): readonly number[] {
  const most = mostOf(questions)
  const possible = totals(questions)
  if (possible) {
    const reached = new Set([...possible].map((points) => levelOf(points, most, levels)))
    return levels.flatMap((_, i) => (reached.has(i) ? [] : [i]))
  }
  const begins = levels.map(({ from }) => (from ? inPoints(from, most) : { num: 0, den: 1 }))
  return begins.flatMap(({ num, den }, i) => {
    const above = begins[i - 1]
    const empty = above !== undefined && num * above.den >= above.num * den
    return num > most * den || empty ? [i] : []
  })
}
