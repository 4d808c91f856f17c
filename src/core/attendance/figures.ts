import type { Meaning } from './codes'

export interface AttendanceFigures {
  /** Half-days that counted: marked, and not "not expected". */
  readonly possible: number
  /** In school or educated elsewhere; late counts as present. */
  readonly present: number
  readonly late: number
  readonly withReason: number
  readonly withoutReason: number
  /** Half-days on roll with no mark yet; in no other figure. */
  readonly unmarked: number
  /** present / possible × 100, half up, one decimal; undefined when nothing was possible. */
  readonly percentPresent: string | undefined
}

const countsPresent: ReadonlySet<Meaning> = new Set(['present', 'late', 'elsewhere'])

/**
 * Attendance figures from the number of half-days of each meaning.
 * @param counts half-days by meaning; `unmarked` those on roll without a mark
 */
export function attendanceFigures(
  counts: Readonly<Partial<Record<Meaning, number>>>,
  unmarked: number,
): AttendanceFigures {
  const of = (meaning: Meaning) => counts[meaning] ?? 0
  const meanings = Object.keys(counts) as Meaning[]
  const possible = meanings.filter((m) => m !== 'not expected').reduce((sum, m) => sum + of(m), 0)
  const present = meanings.filter((m) => countsPresent.has(m)).reduce((sum, m) => sum + of(m), 0)
  // Whole tenths of a percent, half up, in integers: 2·1000·present + possible over 2·possible.
  const tenths = possible === 0 ? undefined : Math.floor((2000 * present + possible) / (2 * possible))
  return {
    possible,
    present,
    late: of('late'),
    withReason: of('absent with reason'),
    withoutReason: of('absent without reason'),
    unmarked,
    percentPresent: tenths === undefined ? undefined : `${Math.floor(tenths / 10)}.${tenths % 10}`,
  }
}
