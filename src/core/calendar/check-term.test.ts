import fc from 'fast-check'
import { checkTerm, checkYearDays, daysLost } from './check-term'
import { addDays } from './school-year'

const year = { name: '2026/27', firstDay: '2026-09-01', lastDay: '2027-07-16' }
const autumn = { name: 'Autumn', firstDay: '2026-09-01', lastDay: '2026-12-18' }
const spring = { name: 'Spring', firstDay: '2027-01-05', lastDay: '2027-04-01' }

test.each([
  ['2027-01-05', '2027-03-20', []],
  ['2026-12-19', '2027-03-20', []],
  ['2026-12-18', '2027-03-20', ['firstDay']],
  ['2027-01-05', '2027-01-05', ['lastDay']],
  ['2027-01-05', '2027-07-17', ['lastDay']],
  ['2026-08-31', '2027-07-17', ['firstDay', 'lastDay']],
])('a term from %s to %s has problems at %j', (firstDay, lastDay, paths) => {
  expect(checkTerm(year, [autumn], { firstDay, lastDay }).map((p) => p.path)).toEqual(paths)
})

test.each([
  ['2026-08-20', '2027-07-31', []],
  ['2026-09-02', '2027-07-16', ['firstDay']],
  ['2026-09-01', '2027-03-31', ['lastDay']],
  ['2026-09-01', '2027-08-20', ['firstDay']],
])('a year from %s to %s has problems at %j', (firstDay, lastDay, paths) => {
  const next = { name: '2027/28', firstDay: '2027-08-15', lastDay: '2028-07-14' }
  expect(checkYearDays([autumn, spring], [next], { firstDay, lastDay }).map((p) => p.path)).toEqual(paths)
})

test('the days a term loses are those it had and has no more', () => {
  const day = fc.integer({ min: 0, max: 60 }).map((n) => addDays('2026-09-01', n))
  const span = fc
    .tuple(day, day)
    .map(([a, b]) => (a < b ? { firstDay: a, lastDay: b } : { firstDay: b, lastDay: a }))
  const holds = (s: { firstDay: string; lastDay: string }, d: string) => s.firstDay <= d && d <= s.lastDay
  fc.assert(
    fc.property(span, span, day, (was, becomes, d) => {
      const lost = daysLost(was, becomes)
      expect(lost.filter((s) => holds(s, d))).toHaveLength(holds(was, d) && !holds(becomes, d) ? 1 : 0)
    }),
  )
})
