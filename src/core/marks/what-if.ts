import type { Assignment, Gradebook, ScoreEntries, ScoreEntry } from './gradebook'
import { fromHundredths, hundredths } from './rational'
import { gradeOf, termMark, type Dates, type TermMark } from './term-mark'

const withEntry = (entries: ScoreEntries, id: string, entry: ScoreEntry): ScoreEntries =>
  new Map(entries).set(id, entry)
const full = ({ maxPoints }: Assignment): ScoreEntry => ({ kind: 'points', points: maxPoints })

/** A piece of work with the mark there would be. */
export interface Lift {
  readonly assignment: Assignment
  readonly points: string
  readonly mark: string
  readonly grade: string | undefined
}

/**
 * What each piece that is missing, incomplete or overdue would lift the mark to with full points; those that lift it,
 * the one that changes most first.
 */
export function liftsOf(
  book: Gradebook,
  entries: ScoreEntries,
  dates: Dates,
  now: TermMark = termMark(book, entries, dates),
): readonly Lift[] {
  return now.categories
    .flatMap((c) => c.scores)
    .filter((s) => s.standing !== undefined || (s.treatment === 'counted as zero' && s.points === undefined))
    .flatMap(({ assignment }): Lift[] => {
      const { mark, grade } = termMark(book, withEntry(entries, assignment.id, full(assignment)), dates)
      return mark !== undefined && Number(mark) > Number(now.mark ?? -1)
        ? [{ assignment, points: assignment.maxPoints, mark, grade }]
        : []
    })
    .sort((a, b) => Number(b.mark) - Number(a.mark))
}

/** What is needed on the work that is left. */
export type Needed =
  /** The mark is there, whatever comes: also with nothing on the work that is left. */
  | { readonly kind: 'certain' }
  /** Nothing is left to do. */
  | { readonly kind: 'nothing left' }
  /** Not even with full points; the highest mark there can be. */
  | { readonly kind: 'out of reach'; readonly mark: string }
  /** The same share on every piece, in percent with two decimals. */
  | { readonly kind: 'share'; readonly percent: string; readonly pieces: readonly Assignment[] }

/** Points for a share of a maximum, with two decimals, rounded up. */
const pointsFor = ({ maxPoints }: Assignment, share: number): string =>
  fromHundredths(Math.ceil((hundredths(maxPoints) * share) / 10_000))

/**
 * The lowest share that, earned on every piece that is left, makes a mark: work that counts, has no entry yet and was not
 * before the student joined. The mark is worked out as always, so that drops, weights and rounding are as they will be.
 * @param wished the mark as it would be shown, such as `80`
 */
export function neededFor(book: Gradebook, entries: ScoreEntries, dates: Dates, wished: string): Needed {
  const pieces = book.assignments.filter(
    (a) => a.counts && !a.extra && !entries.has(a.id) && a.dueOn >= dates.since,
  )
  const markAt = (share: number): string | undefined => {
    const then = new Map(entries)
    for (const piece of pieces) then.set(piece.id, { kind: 'points', points: pointsFor(piece, share) })
    return termMark(book, then, dates).mark
  }
  const reaches = (share: number) => Number(markAt(share) ?? -1) >= Number(wished)
  if (pieces.length === 0) return { kind: 'nothing left' }
  if (reaches(0)) return { kind: 'certain' }
  if (!reaches(10_000)) return { kind: 'out of reach', mark: markAt(10_000) ?? '0' }
  let [low, high] = [0, 10_000]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (reaches(middle)) high = middle
    else low = middle
  }
  return { kind: 'share', percent: fromHundredths(high), pieces }
}

/** A piece without which the grade would be another one. */
export interface Hanging {
  readonly assignment: Assignment
  readonly mark: string
  readonly grade: string | undefined
}

/**
 * The piece of work on which a grade hangs most: the one that, left out as if it were excused, would give another grade,
 * and of several the one that moves the mark most. Undefined where every piece could be left out.
 */
export function hangsOn(book: Gradebook, entries: ScoreEntries, dates: Dates): Hanging | undefined {
  const now = termMark(book, entries, dates)
  if (now.mark === undefined) return undefined
  const moved = ({ mark }: Hanging) => Math.abs(Number(mark) - Number(now.mark))
  return now.categories
    .flatMap((c) => c.scores)
    .filter((s) => s.treatment === 'counted' || s.treatment === 'counted as zero')
    .flatMap(({ assignment }): Hanging[] => {
      const { mark, grade } = termMark(book, withEntry(entries, assignment.id, { kind: 'excused' }), dates)
      return mark !== undefined && grade !== now.grade ? [{ assignment, mark, grade }] : []
    })
    .sort((a, b) => moved(b) - moved(a))[0]
}

/** The marks that earn the grades of a scale, the highest first, with one that is below none left out. */
export const gradesToWish = ({
  rules,
}: Gradebook): readonly { readonly grade: string; readonly mark: string }[] =>
  rules.bands
    .filter((b) => gradeOf(b.fromPercent, rules.bands) === b.grade && Number(b.fromPercent) > 0)
    .map((b) => ({ grade: b.grade, mark: b.fromPercent }))
