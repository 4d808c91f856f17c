import type { Meaning } from './codes'

export interface AttendanceFigures {
  /** Sessions that counted: marked, and not "not expected". */
  readonly possible: number
  /** In school or educated elsewhere; late counts as present. */
  readonly present: number
  readonly late: number
  readonly elsewhere: number
  readonly withReason: number
  readonly withoutReason: number
  readonly notExpected: number
  /** Sessions on roll with no mark yet; in no other figure. */
  readonly unmarked: number
  /** present / possible × 100, half up, one decimal; undefined when nothing was possible. */
  readonly percentPresent: string | undefined
}

/** What each figure counts, in words; the application and the documents show the same list. */
export const figureDefinitions: readonly (readonly [figure: string, counts: string])[] = [
  [
    'Session',
    'A morning or an afternoon of a school day, or one lesson. Half-days and lessons are counted separately and never added.',
  ],
  [
    'Possible',
    'Sessions with a mark while the student belonged to the class, homeroom or group, without those marked "not expected".',
  ],
  ['Present', 'Possible sessions marked present, late or educated elsewhere.'],
  ['Late', 'Sessions marked late. They are part of present.'],
  ['Elsewhere', 'Sessions marked educated elsewhere. They are part of present.'],
  ['With reason', 'Possible sessions marked absent with a reason.'],
  ['No reason yet', 'Possible sessions marked absent without a reason yet.'],
  ['Not expected', 'Sessions in which the student was not expected. They are in no other figure.'],
  [
    'Kept from before',
    'Marks of a day that has no school any more, or of a lesson that was cancelled, count in no figure.',
  ],
  [
    'Not marked',
    'Half-days on roll on school days that have begun, and lessons of the student’s classes by the timetable, that have no mark yet. They are in no other figure, so a register that was not taken lowers nobody.',
  ],
  ['Per cent present', 'Present divided by possible, rounded half up to one decimal.'],
  [
    'Meaning of a code',
    'A mark counts as its code means in the set of codes in use on that day. Changing what a code means changes the figures of its days.',
  ],
  [
    'May miss',
    'How many of the sessions still to come until the last day shown may be missed without the per cent present falling below the threshold, if all others are attended.',
  ],
]

const countsPresent: ReadonlySet<Meaning> = new Set(['present', 'late', 'elsewhere'])

/** How many sessions there were of each meaning. */
export type MeaningCounts = Readonly<Partial<Record<Meaning, number>>>

/**
 * Attendance figures from the number of sessions of each meaning.
 * @param counts sessions by meaning
 * @param unmarked those on roll without a mark
 */
export function attendanceFigures(counts: MeaningCounts, unmarked: number): AttendanceFigures {
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
    elsewhere: of('elsewhere'),
    withReason: of('absent with reason'),
    withoutReason: of('absent without reason'),
    notExpected: of('not expected'),
    unmarked,
    percentPresent: tenths === undefined ? undefined : `${Math.floor(tenths / 10)}.${tenths % 10}`,
  }
}

/** Groups of fewer students have no figures of their own: they would say something about each of them. */
export const smallestGroup = 5

/**
 * Whether a share of sessions is below a threshold, exactly.
 * @param threshold whole per cent
 */
export const isBelow = (
  { present, possible }: Pick<AttendanceFigures, 'present' | 'possible'>,
  threshold: number,
) => possible > 0 && 100 * present < threshold * possible

/**
 * How many of the sessions to come may be missed so that the share is not below the threshold in the end, if all others
 * are attended.
 * @param left sessions to come
 * @param threshold whole per cent
 * @returns 0 to `left`, or undefined where the threshold can no longer be reached
 */
export function mayMiss(
  { present, possible }: Pick<AttendanceFigures, 'present' | 'possible'>,
  left: number,
  threshold: number,
): number | undefined {
  // 100·(present + left − x) ≥ threshold·(possible + left)
  const spare = Math.floor((100 * (present + left) - threshold * (possible + left)) / 100)
  return spare < 0 ? undefined : Math.min(spare, left)
}
