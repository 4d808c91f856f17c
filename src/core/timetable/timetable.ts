import {
  addDays,
  countedClosureDays,
  dayKind,
  daysBetween,
  schoolDays,
  weekday,
  type CivilDate,
  type SchoolYear,
} from '@/core/calendar/school-year'

/** How a timetable repeats: by the weekdays of one week, of two, or by a number of school days. */
export const cycles = ['week', 'two weeks', 'days'] as const
export type Cycle = (typeof cycles)[number]

export interface Timetable {
  readonly firstDay: CivilDate
  /** The last day of use; none while it is open-ended. */
  readonly lastDay: CivilDate | null
  readonly cycle: Cycle
  /** Days until the timetable begins again. */
  readonly cycleDays: number
}

export interface Period {
  readonly number: number
  /** HH:MM where the school is. */
  readonly starts: string
  readonly ends: string
}

/** From which day a change of a timetable counts: today while the period has not begun, else tomorrow. */
export const changesFrom = (today: CivilDate, begun: boolean): CivilDate =>
  begun ? addDays(today, 1) : today

/** How many days a cycle has; for `days` as many as were asked for. */
export const cycleLength = (cycle: Cycle, weekdays: readonly number[], days: number): number =>
  cycle === 'days' ? days : weekdays.length * (cycle === 'week' ? 1 : 2)

const monday = (date: CivilDate) => addDays(date, 1 - weekday(date))

/**
 * The day of the cycle on a date, from 1. A cycle of days counts school days, so that a day without school leaves none
 * out unless it was entered late; one of two weeks goes by the calendar, so that everyone knows which week it is.
 * @returns undefined where there is no school, or the timetable is not in use
 */
export function cycleDay(timetable: Timetable, year: SchoolYear, date: CivilDate): number | undefined {
  if (date < timetable.firstDay || (timetable.lastDay !== null && date > timetable.lastDay)) return undefined
  if (dayKind(year, date).kind !== 'school day') return undefined
  if (timetable.cycle === 'days') {
    const from = timetable.firstDay > year.firstDay ? timetable.firstDay : year.firstDay
    const days = schoolDays(year, from, date).length + countedClosureDays(year, from, date)
    return ((days - 1) % timetable.cycleDays) + 1
  }
  const ofWeek = year.weekdays.indexOf(weekday(date)) + 1
  const weeks = daysBetween(monday(timetable.firstDay), monday(date)) / 7
  return timetable.cycle === 'two weeks' && weeks % 2 === 1 ? ofWeek + year.weekdays.length : ofWeek
}

const weekdayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

/** What each day of a cycle is called, in order: Monday, Monday of week 2, Day 3. */
export function cycleDayNames(
  { cycle, cycleDays }: Pick<Timetable, 'cycle' | 'cycleDays'>,
  weekdays: readonly number[],
): readonly string[] {
  return Array.from({ length: cycleDays }, (_, i) => {
    if (cycle === 'days') return `Day ${i + 1}`
    const name = weekdayNames[(weekdays[i % weekdays.length] ?? 1) - 1] ?? ''
    return cycle === 'week' ? name : `${name}, week ${i < weekdays.length ? 1 : 2}`
  })
}

interface PeriodProblem {
  readonly index: number
  readonly field: 'starts' | 'ends'
  readonly message: string
}

/** What is wrong with the periods of a timetable, by the index of the period. */
export function checkPeriods(periods: readonly Period[]): readonly PeriodProblem[] {
  return periods.flatMap(({ starts, ends }, index): readonly PeriodProblem[] => {
    const before = periods[index - 1]
    if (ends <= starts) return [{ index, field: 'ends', message: 'A period must end after it starts.' }]
    if (!before || starts >= before.ends) return []
    const message = `Period ${index} ends at ${before.ends}. The next must not start earlier.`
    return [{ index, field: 'starts', message }]
  })
}

/** A register of a lesson opens this many minutes before the lesson starts. */
const opensBefore = 10

export const minutesOf = (time: string): number => {
  const [hours = 0, minutes = 0] = time.split(':').map(Number)
  return 60 * hours + minutes
}

/** Whether the register of a lesson can be taken at a time of its day. */
export const lessonBegun = ({ starts }: Pick<Period, 'starts'>, time: string): boolean =>
  minutesOf(time) >= minutesOf(starts) - opensBefore

/** The latest start of those lessons whose registers can be taken at a time of day. */
export function lastOpened(time: string): string {
  const minutes = Math.min(minutesOf(time) + opensBefore, minutesOf('23:59'))
  const two = (n: number) => String(n).padStart(2, '0')
  return `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`
}

/** Which half of the day a lesson belongs to: those that start before noon to the morning. */
export const halfOf = ({ starts }: Pick<Period, 'starts'>): 'morning' | 'afternoon' =>
  starts < '12:00' ? 'morning' : 'afternoon'

/** The lesson under way at a time, else the next to come, else none. */
export function presentLesson<T extends Pick<Period, 'starts' | 'ends'>>(
  lessons: readonly T[],
  time: string,
): T | undefined {
  return lessons.find((lesson) => time < lesson.ends)
}

interface Placed {
  readonly cycleDay: number
  readonly period: number
  readonly classId: string
  readonly roomId: string | null
}

/** Two lessons at once that cannot both be held. */
export interface Clash {
  readonly cycleDay: number
  readonly period: number
  readonly kind: 'teacher' | 'room'
  /** The id of the teacher or room. */
  readonly who: string
  readonly classIds: readonly string[]
}

/**
 * Teachers and rooms that a timetable needs in two places at once.
 * @param teachersOf the teachers of each class
 */
export function clashes(
  lessons: readonly Placed[],
  teachersOf: ReadonlyMap<string, readonly string[]>,
): readonly Clash[] {
  const at = new Map<string, { clash: Omit<Clash, 'classIds'>; classIds: string[] }>()
  const add = (lesson: Placed, kind: Clash['kind'], who: string) => {
    const { cycleDay, period, classId } = lesson
    const key = `${cycleDay} ${period} ${kind} ${who}`
    const known = at.get(key) ?? { clash: { cycleDay, period, kind, who }, classIds: [] }
    known.classIds.push(classId)
    at.set(key, known)
  }
  for (const lesson of lessons) {
    for (const staffId of teachersOf.get(lesson.classId) ?? []) add(lesson, 'teacher', staffId)
    if (lesson.roomId !== null) add(lesson, 'room', lesson.roomId)
  }
  return [...at.values()]
    .filter(({ classIds }) => classIds.length > 1)
    .map(({ clash, classIds }) => ({ ...clash, classIds }))
    .sort((a, b) => a.cycleDay - b.cycleDay || a.period - b.period || a.kind.localeCompare(b.kind))
}
