import { hundredths } from '@/core/marks/rational'
import { kindOf, type Keyed } from './kinds'

/** Whether a question is scored with its key, dropped for all, or given to all. */
export type Counts = 'keyed' | 'dropped' | 'given'

/** Where points come from, the strongest first: of several the strongest counts, as the view `counted_response` says too. */
export const pointsSources = ['override', 'hand', 'rubric', 'key'] as const
export type PointsSource = (typeof pointsSources)[number]

/** A question as it is asked and counts now. */
export type AskedQuestion = Keyed & {
  readonly id: string
  readonly position: number
  /** A decimal as text. */
  readonly points: string
  readonly counts: Counts
  readonly standardIds: readonly string[]
}

/** What somebody answered to one question, and what it is worth. */
export interface Counted {
  /** As the question's kind has it; undefined where it was left out. */
  readonly value: unknown
  /** In hundredths; undefined where nobody and no key has given points yet. */
  readonly points: number | undefined
}

/**
 * What the key gives for a response, in hundredths of a point, rounded half up where the share is no whole number of
 * them; undefined where a marker decides, or without a key.
 */
export function keyPoints(
  question: Pick<AskedQuestion, 'kind' | 'content' | 'points'>,
  value: unknown,
): number | undefined {
  const share = kindOf(question.kind).score(question.content, value)
  if (share === undefined) return undefined
  return Math.floor((2 * hundredths(question.points) * share.num + share.den) / (2 * share.den))
}

export interface Total {
  /** In hundredths of a point. */
  readonly points: number
  readonly most: number
  /** How many answers have no points yet; while there are any, the total is not final. */
  readonly unmarked: number
}

/** What some questions are worth in all, in hundredths; those dropped for all are worth nothing. */
export const mostOf = (questions: readonly Pick<AskedQuestion, 'points' | 'counts'>[]): number =>
  questions.reduce((sum, q) => sum + (q.counts === 'dropped' ? 0 : hundredths(q.points)), 0)

/** What one response adds to a total, in hundredths. A question given to all adds its points to everybody's. */
export function countedPoints(question: AskedQuestion, response: Counted | undefined): number {
  if (question.counts === 'dropped') return 0
  if (question.counts === 'given') return hundredths(question.points)
  return response?.points ?? 0
}

/** Whether a question was answered and has no points yet. */
export const isUnmarked = (question: AskedQuestion, response: Counted | undefined): boolean =>
  question.counts === 'keyed' && response?.value !== undefined && response.points === undefined

/** Adds up an attempt over some questions. */
export function totalOf(questions: readonly AskedQuestion[], responses: ReadonlyMap<string, Counted>): Total {
  let points = 0
  let unmarked = 0
  for (const question of questions) {
    const response = responses.get(question.id)
    points += countedPoints(question, response)
    if (isUnmarked(question, response)) unmarked++
  }
  return { points, most: mostOf(questions), unmarked }
}
