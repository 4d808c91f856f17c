import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { arrivalTime, readLateness } from './arrival'
import { missedWords } from './calls'
import { attendanceFigures, figureDefinitions, isBelow, mayMiss } from './figures'
import { figureValues, fillLetter, unknownFields, type LetterValues } from './letter'
import { manyAway } from './unusual'

const counted = fc.record({
  present: fc.nat({ max: 300 }),
  possible: fc.nat({ max: 300 }),
  left: fc.nat({ max: 200 }),
  threshold: fc.integer({ min: 1, max: 100 }),
})

describe('how much may be missed', () => {
  test('is the most that keeps the share from falling below the threshold', () => {
    fc.assert(
      fc.property(counted, ({ present, possible: more, left, threshold }) => {
        const figures = { present, possible: present + more }
        const spare = mayMiss(figures, left, threshold)
        const after = (missed: number) => ({
          present: present + left - missed,
          possible: figures.possible + left,
        })
        if (spare === undefined) {
          expect(isBelow(after(0), threshold)).toBe(true)
          return
        }
        expect(isBelow(after(spare), threshold)).toBe(false)
        if (spare < left) expect(isBelow(after(spare + 1), threshold)).toBe(true)
      }),
    )
  })
  test('is counted exactly at the border', () => {
    expect(isBelow({ present: 9, possible: 10 }, 90)).toBe(false)
    expect(isBelow({ present: 89, possible: 99 }, 90)).toBe(true)
    expect(mayMiss({ present: 90, possible: 100 }, 0, 90)).toBe(0)
    expect(mayMiss({ present: 100, possible: 100 }, 100, 90)).toBe(20)
    expect(mayMiss({ present: 10, possible: 100 }, 10, 90)).toBeUndefined()
    expect(isBelow({ present: 0, possible: 0 }, 90)).toBe(false)
  })
})

test('the documents define each figure as the application does', () => {
  const text = readFileSync('docs/attendance-figures.md', 'utf8').replace(/\s+/g, ' ')
  for (const [figure, counts] of figureDefinitions) expect(text).toContain(`**${figure}.** ${counts}`)
})

describe('being late', () => {
  test.each([
    ['', { minutes: null }],
    ['12', { minutes: 12 }],
    ['9:02', { minutes: 12 }],
    ['09.02', { minutes: 12 }],
    ['8:50', { minutes: 0 }],
  ])('%j is read', (text, read) => expect(readLateness(text, '08:50')).toEqual(read))
  test.each([
    ['8:49', 'before the session started at 08:50'],
    ['soon', 'neither minutes nor a time'],
    ['24:00', 'neither minutes nor a time'],
    ['700', 'at most 600'],
    ['19:00', 'too long after'],
  ])('%j is refused', (text, words) =>
    expect(readLateness(text, '08:50')).toMatchObject({ problem: expect.stringContaining(words) }),
  )
  test('needs to know when the session starts for a time of arrival', () => {
    expect(readLateness('9:02', undefined)).toMatchObject({ problem: expect.stringContaining('timetable') })
    expect(arrivalTime(12, '08:50')).toBe('09:02')
    expect(arrivalTime(12, undefined)).toBeUndefined()
  })
  test('minutes and time of arrival are computed from each other', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 600 }), (minutes) => {
        const at = arrivalTime(minutes, '08:50') ?? ''
        expect(readLateness(at, '08:50')).toEqual({ minutes })
      }),
    )
  })
})

test('a letter has its fields filled in, and names those there are not', () => {
  const values: LetterValues = {
    ...figureValues(
      attendanceFigures({ present: 80, 'absent with reason': 12, 'absent without reason': 8 }, 0),
    ),
    guardian: 'Hana Marsh',
    student: 'Ilse Okonjo-Marsh',
    from: 'Tue 1 Sep 2026',
    to: 'Mon 23 Nov 2026',
    school: 'Wrackline School',
    sessions: 'half-days',
    sender: 'Ewan Leask',
  }
  expect(fillLetter('{student}: {percent}, {missed} of {possible}, { no reason } open', values)).toBe(
    'Ilse Okonjo-Marsh: 80.0%, 20 of 100, 8 open',
  )
  expect(unknownFields('{student} {pupil} {Percent}')).toEqual(['pupil', 'Percent'])
  expect(fillLetter('{pupil}', values)).toBe('{pupil}')
})

test('many are away where five and a quarter of those marked are', () => {
  expect(manyAway({ away: 4, marked: 10 })).toBe(false)
  expect(manyAway({ away: 5, marked: 20 })).toBe(true)
  expect(manyAway({ away: 5, marked: 21 })).toBe(false)
})

test('what was missed of a day, in words', () => {
  expect(missedWords(['morning', 'afternoon', '2'])).toBe('whole day')
  expect(missedWords(['morning', '2', '3'])).toBe('morning')
  expect(missedWords(['2', '3'])).toBe('period 2, period 3')
})
