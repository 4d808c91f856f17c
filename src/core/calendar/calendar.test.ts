import fc from 'fast-check'
import { Temporal } from 'temporal-polyfill'
import { checkClosure } from './check-closure'
import { checkYear } from './check-year'
import { readDate, shortDate } from './date-words'
import {
  addDays,
  dayKind,
  daysBetween,
  isCivilDate,
  nearestSchoolDay,
  schoolDays,
  termOn,
  termShownOn,
  weekday,
  type SchoolYear,
} from './school-year'

const year: SchoolYear = {
  id: 'y',
  name: '2026/27',
  firstDay: '2026-09-01',
  lastDay: '2027-07-16',
  weekdays: [1, 2, 3, 4, 5],
  terms: [
    { id: 'a', name: 'Autumn', firstDay: '2026-09-01', lastDay: '2026-12-18' },
    { id: 's', name: 'Spring', firstDay: '2027-01-05', lastDay: '2027-04-01' },
  ],
  closures: [
    { kind: 'staff day', name: 'Staff day', firstDay: '2026-09-01', lastDay: '2026-09-01' },
    { kind: 'break', name: 'Autumn break', firstDay: '2026-10-26', lastDay: '2026-10-30' },
  ],
}

describe('what a day is', () => {
  test.each([
    ['2026-11-23', 'school day'],
    ['2026-09-01', 'closed'],
    ['2026-10-28', 'closed'],
    ['2026-11-21', 'weekend'],
    ['2026-12-24', 'between terms'],
    ['2027-05-10', 'between terms'],
    ['2026-08-31', 'outside the year'],
    ['2027-07-17', 'outside the year'],
  ])('%s is %s', (date, kind) => expect(dayKind(year, date).kind).toBe(kind))
  test('from outside the year the nearest school day may be its first or its last', () => {
    const whole: SchoolYear = {
      ...year,
      firstDay: '2026-09-02',
      lastDay: '2027-07-15',
      terms: [{ id: 'a', name: 'Year', firstDay: '2026-09-02', lastDay: '2027-07-15' }],
      closures: [],
    }
    expect(nearestSchoolDay(whole, '2027-08-20', -1)).toBe('2027-07-15')
    expect(nearestSchoolDay(whole, '2026-08-20', 1)).toBe('2026-09-02')
    expect(nearestSchoolDay(whole, '2027-07-15', 1)).toBeUndefined()
    expect(nearestSchoolDay(whole, '2026-09-02', -1)).toBeUndefined()
  })
  test('the nearest school days skip a break with its weekends', () => {
    expect(nearestSchoolDay(year, '2026-10-28', 1)).toBe('2026-11-02')
    expect(nearestSchoolDay(year, '2026-10-28', -1)).toBe('2026-10-23')
    expect(nearestSchoolDay(year, '2026-08-01', 1)).toBe('2026-09-02')
    expect(nearestSchoolDay(year, '2027-08-01', -1)).toBe('2027-04-01')
    expect(nearestSchoolDay(year, '2026-09-02', -1)).toBeUndefined()
  })
  test('school days of a span leave out weekends and closures', () => {
    expect(schoolDays(year, '2026-10-22', '2026-11-03')).toEqual([
      '2026-10-22',
      '2026-10-23',
      '2026-11-02',
      '2026-11-03',
    ])
    expect(schoolDays(year, '2026-08-01', '2026-09-02')).toEqual(['2026-09-02'])
  })
  test('between terms the term before is shown, before the first the first', () => {
    expect(termOn(year, '2026-12-24')).toBeUndefined()
    expect(termShownOn(year, '2026-12-24')?.name).toBe('Autumn')
    expect(termShownOn(year, '2027-06-01')?.name).toBe('Spring')
    expect(termShownOn(year, '2026-08-01')?.name).toBe('Autumn')
  })
})

describe('dates', () => {
  test('arithmetic crosses months and leap days', () => {
    expect([addDays('2026-11-30', 1), addDays('2028-02-28', 1), addDays('2026-03-01', -1)]).toEqual([
      '2026-12-01',
      '2028-02-29',
      '2026-02-28',
    ])
    expect(daysBetween('2026-09-01', '2026-11-23')).toBe(83)
    expect(weekday('2026-11-23')).toBe(1)
  })
  test('only dates that exist are dates', () => {
    expect(['2026-11-23', '2028-02-29'].every(isCivilDate)).toBe(true)
    expect(['2026-02-29', '2026-13-01', '26-11-23', '2026-11-23T00:00', ''].some(isCivilDate)).toBe(false)
  })
  test('are written short', () => {
    expect([shortDate('2026-11-23'), shortDate('2026-11-23', true)]).toEqual([
      'Mon 23 Nov',
      'Mon 23 Nov 2026',
    ])
  })
  test.each([
    ['20 Nov', '2026-11-20'],
    ['20 november', '2026-11-20'],
    ['Fri, 20 Nov', '2026-11-20'],
    ['5.3.', '2027-03-05'],
    ['5/3', '2027-03-05'],
    ['20/11/2026', '2026-11-20'],
    ['20.11.26', '2026-11-20'],
    ['3 Apr 14', '2014-04-03'],
    ['1/2/36', '2036-02-01'],
    ['1/2/37', '1937-02-01'],
    ['Fri 3 Apr 2014', '2014-04-03'],
    ['2026-10-01', '2026-10-01'],
    ['today', '2026-11-23'],
    ['yesterday', '2026-11-22'],
    ['-7', '2026-11-16'],
    ['+1', '2026-11-24'],
    ['31 Feb', undefined],
    ['soon', undefined],
    ['', undefined],
    ['40', undefined],
    ['3 Apr 201', undefined],
  ])('%j is read as %s', (typed, date) =>
    expect(readDate(typed, '2026-11-23', year.firstDay, year.lastDay)).toBe(date),
  )
})

describe('dates as people type and read them', () => {
  const anyDate = fc
    .integer({ min: -20000, max: 25000 })
    .map((n) => new Date(n * 86400000).toISOString().slice(0, 10))
  test('a date written in words is read as itself, whatever academic year one works in', () =>
    fc.assert(
      fc.property(anyDate, (date) => {
        expect(readDate(shortDate(date, true), '2026-11-23', year.firstDay, year.lastDay)).toBe(date)
      }),
    ))
  test('day and month stand in one order, with any sign between them', () =>
    fc.assert(
      fc.property(anyDate, fc.constantFrom('/', '.', '-', ' ', ' / ', '. '), (date, sign) => {
        const [y, m, d] = date.split('-').map(Number)
        expect(readDate(`${d}${sign}${m}${sign}${y}`, '2026-11-23', year.firstDay, year.lastDay)).toBe(date)
      }),
    ))
  test('a date without a year lies in the academic year wherever that has such a day', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 300 }), (n) => {
        const date = addDays(year.firstDay, n)
        fc.pre(date <= year.lastDay)
        const [, m, d] = date.split('-').map(Number)
        expect(readDate(`${d}.${m}.`, '2026-11-23', year.firstDay, year.lastDay)).toBe(date)
      }),
    ))
  test.each(['__proto__', 'constructor', 'toString'])('%s is no date', (text) =>
    expect(readDate(text, '2026-11-23', year.firstDay, year.lastDay)).toBeUndefined(),
  )
  test('whatever is typed, the answer is a date or nothing', () =>
    fc.assert(
      fc.property(fc.string({ maxLength: 14 }), (text) => {
        const read = readDate(text, '2026-11-23', year.firstDay, year.lastDay)
        expect(read === undefined || isCivilDate(read)).toBe(true)
      }),
    ))
})

describe('an academic year as it is entered', () => {
  const draft = { name: '2026/27', firstDay: '2026-09-01', lastDay: '2027-07-16', terms: year.terms }
  test('is right as it stands', () => expect(checkYear(draft)).toEqual([]))
  test('may hold days without school beside each other', () => {
    const closures = [
      { name: 'Break', firstDay: '2026-10-26', lastDay: '2026-10-30' },
      { name: 'Staff day', firstDay: '2026-11-02', lastDay: '2026-11-02' },
    ]
    expect(checkYear({ ...draft, closures })).toEqual([])
  })
  test.each([
    [{ name: ' ' }, 'name'],
    [{ firstDay: '' }, 'firstDay'],
    [{ lastDay: '2026-08-01' }, 'lastDay'],
    [{ lastDay: '2062-07-16' }, 'lastDay'],
    [{ terms: [] }, 'terms'],
    [{ terms: [{ name: '', firstDay: '2026-09-01', lastDay: '2026-12-01' }] }, 'terms.0'],
    [{ terms: [{ name: 'Long', firstDay: '2026-09-01', lastDay: '2027-08-01' }] }, 'terms.0'],
    [{ terms: [{ name: 'Back', firstDay: '2026-12-01', lastDay: '2026-09-01' }] }, 'terms.0'],
    [
      {
        terms: [
          { name: 'A', firstDay: '2026-09-01', lastDay: '2026-12-01' },
          { name: 'B', firstDay: '2026-12-01', lastDay: '2027-01-01' },
        ],
      },
      'terms.1',
    ],
    [{ closures: [{ name: ' ', firstDay: '2026-10-26', lastDay: '2026-10-30' }] }, 'closures.0'],
    [{ closures: [{ name: 'Break', firstDay: '26 Oct', lastDay: '2026-10-30' }] }, 'closures.0'],
    [{ closures: [{ name: 'Break', firstDay: '2026-10-30', lastDay: '2026-10-26' }] }, 'closures.0'],
    [{ closures: [{ name: 'Break', firstDay: '2027-07-10', lastDay: '2027-07-20' }] }, 'closures.0'],
    [
      {
        closures: [
          { name: 'Break', firstDay: '2026-10-26', lastDay: '2026-10-30' },
          { name: 'Storm', firstDay: '2026-10-30', lastDay: '2026-10-30' },
        ],
      },
      'closures.1',
    ],
  ])('%j points at %s', (part, path) =>
    expect(checkYear({ ...draft, ...part }).map((p) => p.path)).toContain(path),
  )
})

describe('civil dates, compared with Temporal', () => {
  const date = fc
    .integer({ min: 0, max: 3_650_000 })
    .map((days) => Temporal.PlainDate.from('0001-01-01').add({ days }).toString())
    .filter((text) => text.length === 10)
  test('weekday, days later and days between', () => {
    fc.assert(
      fc.property(date, fc.integer({ min: -5000, max: 5000 }), (text, days) => {
        const plain = Temporal.PlainDate.from(text)
        expect(weekday(text)).toBe(plain.dayOfWeek)
        expect(isCivilDate(text)).toBe(true)
        const later = plain.add({ days }).toString()
        if (later.length !== 10 || later < '0001') return
        expect(addDays(text, days)).toBe(later)
        expect(daysBetween(text, later)).toBe(days)
      }),
    )
  })
  test.each(['2026-02-30', '2025-02-29', '2026-13-01', '2026-00-10', '2026-01-00', '2026-1-1', ''])(
    '%j does not exist',
    (text) => expect(isCivilDate(text)).toBe(false),
  )
})

describe('days without school as they are entered', () => {
  const year = { name: '2026/27', firstDay: '2026-08-31', lastDay: '2027-07-16' }
  const day = fc.integer({ min: -30, max: 360 }).map((n) => addDays('2026-08-31', n))
  test('are accepted exactly when they lie in the year, in order, and over no others', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(day, fc.nat({ max: 9 })), { maxLength: 5 }),
        day,
        day,
        (spans, first, last) => {
          const others = spans.map(([firstDay, length], i) => ({
            name: `Break ${i}`,
            firstDay,
            lastDay: addDays(firstDay, length),
          }))
          const days = (from: string, to: string) =>
            Array.from({ length: 400 }, (_, n) => addDays('2026-08-01', n)).filter(
              (d) => from <= d && d <= to,
            )
          const taken = new Set(others.flatMap((o) => days(o.firstDay, o.lastDay)))
          const fits =
            first <= last &&
            first >= year.firstDay &&
            last <= year.lastDay &&
            !days(first, last).some((d) => taken.has(d))
          expect(checkClosure(year, others, { firstDay: first, lastDay: last }).length === 0).toBe(fits)
        },
      ),
    )
  })
})
