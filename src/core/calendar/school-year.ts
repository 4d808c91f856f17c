/** A civil date as text, YYYY-MM-DD. */
export type CivilDate = string

export interface Span {
  readonly name: string
  readonly firstDay: CivilDate
  /** The last day itself, not the day after it. */
  readonly lastDay: CivilDate
}

export interface Term extends Span {
  readonly id: string
}

export interface Closure extends Span {
  readonly kind: 'break' | 'holiday' | 'staff day'
  /** Entered late: days up to this one were counted by a cycle of days before anybody knew, and still are. */
  readonly countedUntil?: CivilDate | null
}

export interface SchoolYear extends Span {
  readonly id: string
  /** ISO weekdays on which school is held: 1 Monday to 7 Sunday. */
  readonly weekdays: readonly number[]
  readonly terms: readonly Term[]
  readonly closures: readonly Closure[]
}

/** What a date is for the school; only a school day has sessions. */
export type DayKind =
  | { readonly kind: 'school day'; readonly term: Term }
  | { readonly kind: 'closed'; readonly closure: Closure }
  | { readonly kind: 'weekend' }
  | { readonly kind: 'between terms' }
  | { readonly kind: 'outside the year' }

const within = (span: Span, date: CivilDate) => span.firstDay <= date && date <= span.lastDay

/** The term a date belongs to, or undefined between terms. */
export function termOn(year: SchoolYear, date: CivilDate): Term | undefined {
  return year.terms.find((term) => within(term, date))
}

/**
 * The term a page shows on a date: its own, else the last one before it, else the first.
 * @returns undefined only for a year without terms
 */
export function termShownOn(year: SchoolYear, date: CivilDate): Term | undefined {
  return termOn(year, date) ?? year.terms.findLast((term) => term.lastDay < date) ?? year.terms[0]
}

/** Says what a date is: a school day, a closure, a weekend, between terms or outside the year, tested in the order outside, closed, weekend. */
export function dayKind(year: SchoolYear, date: CivilDate): DayKind {
  if (!within(year, date)) return { kind: 'outside the year' }
  const closure = year.closures.find((c) => within(c, date))
  if (closure) return { kind: 'closed', closure }
  const term = termOn(year, date)
  if (!term) return { kind: 'between terms' }
  if (!year.weekdays.includes(weekday(date))) return { kind: 'weekend' }
  return { kind: 'school day', term }
}

const dayLength = 86_400_000

/** The day a date is, counted from 1 January 1970; NaN for a text that is no date. */
function dayNumber(date: CivilDate): number {
  const [year = NaN, month = NaN, day = NaN] = date.split('-').map(Number)
  // Not Date.UTC, which takes the years 0 to 99 for 1900 to 1999.
  return new Date(0).setUTCFullYear(year, month - 1, day) / dayLength
}

/** ISO weekday of a date: 1 Monday to 7 Sunday. */
export function weekday(date: CivilDate): number {
  // 1 January 1970 was a Thursday.
  return ((((dayNumber(date) + 3) % 7) + 7) % 7) + 1
}

/** The date a number of days later; negative for earlier. */
export function addDays(date: CivilDate, days: number): CivilDate {
  return new Date((dayNumber(date) + days) * dayLength).toISOString().slice(0, 10)
}

/** Days from one date to another, negative when the second is earlier. */
export function daysBetween(from: CivilDate, to: CivilDate): number {
  return dayNumber(to) - dayNumber(from)
}

/** Days without school that a cycle of days counts all the same, since they were entered when they had begun. */
export function countedClosureDays(year: SchoolYear, from: CivilDate, to: CivilDate): number {
  const late = year.closures.filter((c) => (c.countedUntil ?? '') >= c.firstDay)
  if (late.length === 0) return 0
  const open = { ...year, closures: year.closures.filter((c) => !late.includes(c)) }
  return schoolDays(open, from, to).filter((day) =>
    late.some((c) => c.firstDay <= day && day <= c.lastDay && day <= (c.countedUntil ?? '')),
  ).length
}

/** School days from `from` to `to`, both included, oldest first. */
export function schoolDays(year: SchoolYear, from: CivilDate, to: CivilDate): readonly CivilDate[] {
  const first = from > year.firstDay ? from : year.firstDay
  const last = to < year.lastDay ? to : year.lastDay
  const days: CivilDate[] = []
  for (let date = first; date <= last; date = addDays(date, 1))
    if (dayKind(year, date).kind === 'school day') days.push(date)
  return days
}

/** The nearest school day before or after a date, the date itself left out; undefined when the year holds none. */
export function nearestSchoolDay(
  year: SchoolYear,
  date: CivilDate,
  direction: 1 | -1,
): CivilDate | undefined {
  const start =
    direction === 1
      ? date < year.firstDay
        ? addDays(year.firstDay, -1)
        : date
      : date > year.lastDay
        ? addDays(year.lastDay, 1)
        : date
  for (let day = addDays(start, direction); within(year, day); day = addDays(day, direction))
    if (dayKind(year, day).kind === 'school day') return day
  return undefined
}

/** Whether a text is a date that exists, written YYYY-MM-DD. */
export function isCivilDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && addDays(text, 0) === text
}

/** A day, or where it lies outside of a part of the year, the nearest within: whose classes and members are shown. */
export const dayWithin = (
  { firstDay, lastDay }: { readonly firstDay: CivilDate; readonly lastDay: CivilDate },
  day: CivilDate,
): CivilDate => (day < firstDay ? firstDay : day > lastDay ? lastDay : day)
