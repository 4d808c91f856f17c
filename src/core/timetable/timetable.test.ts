import fc from 'fast-check'
import { addDays, dayKind, schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { lessonText, readLesson } from './lesson-text'
import {
  checkPeriods,
  clashes,
  cycleDay,
  cycleDayNames,
  halfOf,
  lastOpened,
  lessonBegun,
  presentLesson,
  type Timetable,
} from './timetable'
import { readTimetableCsv, timetableTitles } from './timetable-csv'

const year: SchoolYear = {
  id: 'y',
  name: '2026/27',
  firstDay: '2026-09-01',
  lastDay: '2027-07-16',
  weekdays: [1, 2, 3, 4, 5],
  terms: [{ id: 't', name: 'Autumn', firstDay: '2026-09-01', lastDay: '2026-12-18' }],
  closures: [{ kind: 'break', name: 'Break', firstDay: '2026-10-26', lastDay: '2026-10-30' }],
}
const week: Timetable = { firstDay: '2026-09-01', lastDay: null, cycle: 'week', cycleDays: 5 }
const fortnight: Timetable = { ...week, cycle: 'two weeks', cycleDays: 10 }
const six: Timetable = { ...week, cycle: 'days', cycleDays: 6 }

describe('the day of a cycle', () => {
  test('goes by the weekday in a timetable of one week, and none without school', () => {
    expect(cycleDay(week, year, '2026-11-23')).toBe(1)
    expect(cycleDay(week, year, '2026-11-27')).toBe(5)
    expect(cycleDay(week, year, '2026-11-28')).toBeUndefined()
    expect(cycleDay(week, year, '2026-10-27')).toBeUndefined()
    expect(cycleDay({ ...week, lastDay: '2026-11-20' }, year, '2026-11-23')).toBeUndefined()
  })
  test('alternates by the calendar in one of two weeks, whatever lies between', () => {
    expect(cycleDay(fortnight, year, '2026-09-01')).toBe(2)
    expect(cycleDay(fortnight, year, '2026-09-07')).toBe(6)
    expect(cycleDay(fortnight, year, '2026-09-14')).toBe(1)
    // The break's week counts as a week.
    expect(cycleDay(fortnight, year, '2026-10-19')).toBe(6)
    expect(cycleDay(fortnight, year, '2026-11-02')).toBe(6)
  })
  test('of a number of days counts school days alone: each follows the one before', () => {
    const days = schoolDays(year, '2026-09-01', '2026-12-18')
    expect(days.slice(0, 8).map((d) => cycleDay(six, year, d))).toEqual([1, 2, 3, 4, 5, 6, 1, 2])
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: days.length - 1 }), (n, i) => {
        const timetable = { ...six, cycleDays: n }
        const before = cycleDay(timetable, year, days[i - 1] ?? '') ?? 0
        expect(cycleDay(timetable, year, days[i] ?? '')).toBe((before % n) + 1)
      }),
    )
  })
  test('is one of the cycle on every school day and none on any other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -20, max: 340 }),
        fc.constantFrom(week, fortnight, six),
        (n, timetable) => {
          const date = addDays('2026-09-01', n)
          const day = cycleDay(timetable, year, date)
          const school = dayKind(year, date).kind === 'school day'
          expect(day !== undefined).toBe(school)
          if (day !== undefined) expect(day >= 1 && day <= timetable.cycleDays).toBe(true)
        },
      ),
    )
  })
  test('has a name', () => {
    expect(cycleDayNames(week, year.weekdays)[0]).toBe('Monday')
    expect(cycleDayNames(fortnight, year.weekdays)[6]).toBe('Tuesday, week 2')
    expect(cycleDayNames(six, year.weekdays)[5]).toBe('Day 6')
  })
})

test('periods follow each other and end after they start', () => {
  const at = (starts: string, ends: string) => ({ number: 1, starts, ends })
  expect(checkPeriods([at('08:50', '09:40'), at('09:40', '10:30')])).toEqual([])
  expect(checkPeriods([at('08:50', '08:50')])).toMatchObject([{ index: 0, field: 'ends' }])
  expect(checkPeriods([at('08:50', '09:40'), at('09:30', '10:30')])).toMatchObject([
    { index: 1, field: 'starts' },
  ])
})

test('a register opens ten minutes before its lesson; the present lesson is the one under way, else the next', () => {
  const [first, second] = [
    { starts: '08:50', ends: '09:40' },
    { starts: '09:45', ends: '10:35' },
  ]
  expect(lessonBegun(first, '08:39')).toBe(false)
  expect(lessonBegun(first, '08:40')).toBe(true)
  expect([lastOpened('08:40'), lastOpened('09:05'), lastOpened('23:55')]).toEqual(['08:50', '09:15', '23:59'])
  expect(presentLesson([first, second], '09:39')).toBe(first)
  expect(presentLesson([first, second], '09:40')).toBe(second)
  expect(presentLesson([first, second], '10:35')).toBeUndefined()
  expect(halfOf({ starts: '11:50' })).toBe('morning')
  expect(halfOf({ starts: '12:00' })).toBe('afternoon')
})

test('a teacher or a room in two places at once is pointed out, a class of two teachers once for each', () => {
  const lesson = (classId: string, roomId: string | null, period = 1) => ({
    cycleDay: 1,
    period,
    classId,
    roomId,
  })
  const teachers = new Map([
    ['a', ['t', 'u']],
    ['b', ['t']],
    ['c', ['v']],
  ])
  expect(clashes([lesson('a', 'r'), lesson('b', 's')], teachers)).toEqual([
    { cycleDay: 1, period: 1, kind: 'teacher', who: 't', classIds: ['a', 'b'] },
  ])
  expect(clashes([lesson('a', 'r'), lesson('c', 'r')], teachers)).toMatchObject([{ kind: 'room', who: 'r' }])
  expect(clashes([lesson('a', null), lesson('c', null), lesson('b', null, 2)], teachers)).toEqual([])
})

const parts = {
  classes: [
    { id: 'a', name: '7 Science A', roomId: 'l1' },
    { id: 'b', name: '8 Science A', roomId: null },
  ],
  rooms: [
    { id: 'l1', name: 'Lab 1' },
    { id: 'l2', name: 'Lab 2' },
  ],
}

describe('a lesson as it is typed', () => {
  test('is a class, or class and room; a class alone is in its usual room', () => {
    expect(readLesson('7 science a', parts)).toEqual({ classId: 'a', roomId: 'l1' })
    expect(readLesson('7 Science A, lab 2', parts)).toEqual({ classId: 'a', roomId: 'l2' })
    expect(readLesson('8 Science A', parts)).toEqual({ classId: 'b', roomId: null })
    expect(readLesson('  ', parts)).toBeNull()
  })
  test('is a room alone in the table of a class', () => {
    expect(readLesson('Lab 2', parts, { classId: 'b' })).toEqual({ classId: 'b', roomId: 'l2' })
    expect(readLesson('8 Science A', parts, { classId: 'b' })).toEqual({ classId: 'b', roomId: null })
    expect(readLesson('7 Science A', parts, { classId: 'b' })).toMatchObject({
      problem: expect.stringContaining('This table is of 8 Science A'),
    })
  })
  test.each([
    ['9 Science A', {}, '"9 Science A" is not a class'],
    ['7 Science A, Lab 9', {}, '"Lab 9" is not a room'],
    ['Attic', { classId: 'a' }, '"Attic" is not a room'],
  ])('%j is pointed out', (text, of, words) =>
    expect(readLesson(text, parts, of)).toMatchObject({ problem: expect.stringContaining(words) }),
  )
  test('comes back as it was, in each table', () => {
    const places = [
      { classId: 'a', roomId: 'l1' },
      { classId: 'a', roomId: 'l2' },
      { classId: 'b', roomId: 'l2' },
      { classId: 'b', roomId: null },
    ]
    for (const place of places)
      for (const of of [{}, { classId: place.classId }, ...(place.roomId ? [{ roomId: place.roomId }] : [])])
        expect(readLesson(lessonText(place, parts, of), parts, of)).toEqual(place)
  })
})

describe('a timetable as a file', () => {
  const days = ['Monday', 'Tuesday']
  const read = (...lines: string[][]) => readTimetableCsv([[...timetableTitles], ...lines], parts, days, 6)
  test('is read whole, days by name or number', () => {
    expect(read(['monday', '1', '7 Science A', 'Lab 2'], ['2', '6', '7 science a', ''])).toEqual({
      lessons: [
        { cycleDay: 1, period: 1, classId: 'a', roomId: 'l2' },
        { cycleDay: 2, period: 6, classId: 'a', roomId: 'l1' },
      ],
      problems: [],
    })
  })
  test.each([
    [
      ['Friday', '1', '7 Science A', ''],
      'Row 2: "Friday" is not a day of this timetable. Use Monday, Tuesday.',
    ],
    [['Monday', '7', '7 Science A', ''], 'Row 2: "7" is not a period. Use 1 to 6.'],
    [['Monday', '1', '7 Art', ''], 'Row 2: "7 Art" is not a class of this academic year.'],
    [['Monday', '1', '7 Science A', 'Attic'], 'Row 2: "Attic" is not a room.'],
  ])('%j is told with its row, and nothing is read', (line, problem) =>
    expect(read(line, ['Monday', '2', '7 Science A', ''])).toEqual({ lessons: [], problems: [problem] }),
  )
  test('names a class twice in a period, missing columns and an empty file', () => {
    const twice = read(['Monday', '1', '7 Science A', ''], ['1', '1', '7 Science A', 'Lab 2'])
    expect(twice.problems).toEqual(['Row 3: 7 Science A is already in this period in row 2.'])
    expect(readTimetableCsv([['Day', 'Room']], parts, days, 6).problems).toHaveLength(2)
    expect(readTimetableCsv([[...timetableTitles]], parts, days, 6).problems).toHaveLength(1)
  })
})
