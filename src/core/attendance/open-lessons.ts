import { addDays, type CivilDate } from '@/core/calendar/school-year'

/** Sessions of a student that say nothing yet. */
export interface OpenSessions {
  /** Begun until the day that counts, on roll, and without a mark. */
  readonly unmarked: number
  /** After that day, or not begun. */
  readonly left: number
}

export const noOpenSessions: OpenSessions = { unmarked: 0, left: 0 }

/** What a class's lessons, students' stays in classes and their marks are counted from. */
export interface LessonCounts {
  /** How many lessons each class has on each day, in order of days, and how many of them have not begun. */
  readonly lessons: readonly {
    readonly classId: string
    readonly day: CivilDate
    readonly n: number
    readonly toCome: number
  }[]
  /** From `firstDay` to before `until`; those of one student in one class do not overlap. */
  readonly stays: readonly {
    readonly studentId: string
    readonly classId: string
    readonly firstDay: CivilDate
    readonly until: CivilDate
  }[]
  /** How many of a student's lessons until the day that counts have a mark. */
  readonly marked: readonly { readonly studentId: string; readonly n: number }[]
  /** The last day that counts; lessons after it are to come. */
  readonly date: CivilDate
}

/** Days with lessons in order, and how many lessons there were before each and in all, and how many of them have begun. */
interface Calendar {
  readonly days: CivilDate[]
  readonly before: number[]
  readonly begunBefore: number[]
}

/** The place of a day in a class's days, or of the first after it, by halving their list. */
function placeOf({ days }: Calendar, day: CivilDate): number {
  let low = 0
  let high = days.length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((days[middle] ?? day) < day) low = middle + 1
    else high = middle
  }
  return low
}

/** Each student's lessons without a mark until a day, and those after it. Students without lessons are left out. */
export function countOpen({ lessons, stays, marked, date }: LessonCounts): ReadonlyMap<string, OpenSessions> {
  const calendars = new Map<string, Calendar>()
  for (const { classId, day, n, toCome } of lessons) {
    const calendar = calendars.get(classId) ?? { days: [], before: [0], begunBefore: [0] }
    calendars.set(classId, calendar)
    calendar.days.push(day)
    calendar.before.push((calendar.before.at(-1) ?? 0) + n)
    calendar.begunBefore.push((calendar.begunBefore.at(-1) ?? 0) + n - toCome)
  }
  const tomorrow = addDays(date, 1)
  const open = new Map<string, { unmarked: number; left: number }>()
  for (const { studentId, classId, firstDay, until } of stays) {
    const calendar = calendars.get(classId)
    if (!calendar) continue
    const first = placeOf(calendar, firstDay)
    const end = placeOf(calendar, until)
    const turn = Math.min(Math.max(placeOf(calendar, tomorrow), first), end)
    const between = (counts: readonly number[], from: number, to: number) =>
      (counts[to] ?? 0) - (counts[from] ?? 0)
    const all = between(calendar.before, first, end)
    const begun = between(calendar.begunBefore, first, turn)
    const own = open.get(studentId) ?? { unmarked: 0, left: 0 }
    open.set(studentId, { unmarked: own.unmarked + begun, left: own.left + all - begun })
  }
  for (const { studentId, n } of marked) {
    const own = open.get(studentId)
    if (own) own.unmarked -= n
  }
  return open
}
