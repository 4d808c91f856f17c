import type { LessonParts, LessonPlace } from './lesson-text'

/** The titles of a timetable as a CSV file, one row for each lesson. */
export const timetableTitles = ['Day', 'Period', 'Class', 'Room'] as const

export interface CsvLesson extends LessonPlace {
  readonly cycleDay: number
  readonly period: number
}

const plain = (text: string) => text.trim().toLowerCase()

/**
 * Reads a timetable, its first row the titles in any order; further columns are ignored. A day is its name or its
 * number; a lesson without a room takes the one its class usually has.
 * @returns the lessons, or every row that cannot be read with the reason; never a part of them
 */
export function readTimetableCsv(
  table: readonly (readonly string[])[],
  { classes, rooms }: LessonParts,
  days: readonly string[],
  periods: number,
): { readonly lessons: readonly CsvLesson[]; readonly problems: readonly string[] } {
  const [titles = [], ...lines] = table
  const at = new Map(timetableTitles.map((t) => [t, titles.findIndex((title) => plain(title) === plain(t))]))
  const missing = timetableTitles.filter((t) => t !== 'Room' && at.get(t) === -1)
  if (missing.length > 0)
    return { lessons: [], problems: missing.map((t) => `The first row needs a column named ${t}.`) }
  if (lines.length === 0) return { lessons: [], problems: ['The file has no rows below its titles.'] }
  const classOf = new Map(classes.map((c) => [plain(c.name), c]))
  const roomOf = new Map(rooms.map((r) => [plain(r.name), r.id]))
  const dayOf = new Map(
    days.flatMap((day, i): [string, number][] => [
      [plain(day), i + 1],
      [String(i + 1), i + 1],
    ]),
  )
  const problems: string[] = []
  const taken = new Map<string, number>()
  const lessons = lines.flatMap((line, i): readonly CsvLesson[] => {
    const cell = (title: (typeof timetableTitles)[number]) => line[at.get(title) ?? -1]?.trim() ?? ''
    const row = i + 2
    const wrong = (message: string) => {
      problems.push(`Row ${row}: ${message}`)
      return []
    }
    const cycleDay = dayOf.get(plain(cell('Day')))
    if (cycleDay === undefined)
      return wrong(`"${cell('Day')}" is not a day of this timetable. Use ${days.join(', ')}.`)
    const period = /^\d{1,2}$/.test(cell('Period')) ? Number(cell('Period')) : 0
    if (period < 1 || period > periods)
      return wrong(`"${cell('Period')}" is not a period. Use 1 to ${periods}.`)
    const found = classOf.get(plain(cell('Class')))
    if (!found) return wrong(`"${cell('Class')}" is not a class of this academic year.`)
    const room = cell('Room') === '' ? found.roomId : roomOf.get(plain(cell('Room')))
    if (room === undefined) return wrong(`"${cell('Room')}" is not a room.`)
    const key = `${cycleDay} ${period} ${found.id}`
    const before = taken.get(key)
    if (before !== undefined) return wrong(`${found.name} is already in this period in row ${before}.`)
    taken.set(key, row)
    return [{ cycleDay, period, classId: found.id, roomId: room }]
  })
  return problems.length > 0 ? { lessons: [], problems } : { lessons, problems: [] }
}
