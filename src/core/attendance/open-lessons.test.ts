import fc from 'fast-check'
import { addDays } from '@/core/calendar/school-year'
import { countOpen, noOpenSessions } from './open-lessons'

const day = (n: number) => addDays('2026-09-01', n)

test('lessons of a stay are counted until its last day, and parted at the day asked for', () => {
  const lessons = [0, 1, 2, 3].map((n) => ({ classId: 'science', day: day(n), n: 2, toCome: 0 }))
  const stays = [{ studentId: 'ilse', classId: 'science', firstDay: day(1), until: day(3) }]
  const marked = [{ studentId: 'ilse', n: 1 }]
  expect(countOpen({ lessons, stays, marked, date: day(1) }).get('ilse')).toEqual({ unmarked: 1, left: 2 })
  expect(countOpen({ lessons, stays, marked: [], date: day(9) }).get('ilse')).toEqual({
    unmarked: 4,
    left: 0,
  })
  // The second lesson of the day has not begun.
  const now = lessons.map((l) => ({ ...l, toCome: l.day === day(1) ? 1 : 0 }))
  expect(countOpen({ lessons: now, stays, marked, date: day(1) }).get('ilse')).toEqual({
    unmarked: 0,
    left: 3,
  })
  expect(countOpen({ lessons: [], stays, marked: [], date: day(1) }).size).toBe(0)
})

test('it is what counting lesson by lesson gives', () => {
  const lesson = fc.record({
    classId: fc.constantFrom('a', 'b'),
    at: fc.integer({ min: 0, max: 20 }),
    n: fc.integer({ min: 1, max: 3 }),
    toCome: fc.integer({ min: 0, max: 1 }),
  })
  const stay = fc.record({
    studentId: fc.constantFrom('x', 'y'),
    classId: fc.constantFrom('a', 'b', 'c'),
    from: fc.integer({ min: 0, max: 20 }),
    long: fc.integer({ min: 1, max: 9 }),
  })
  fc.assert(
    fc.property(
      fc.uniqueArray(lesson, { selector: (l) => `${l.classId} ${l.at}` }),
      fc.array(stay),
      fc.integer({ min: 0, max: 20 }),
      (all, stayed, until) => {
        const lessons = [...all].sort((a, b) => a.at - b.at).map((l) => ({ ...l, day: day(l.at) }))
        const stays = stayed.map((s) => ({ ...s, firstDay: day(s.from), until: day(s.from + s.long) }))
        const counted = countOpen({ lessons, stays, marked: [], date: day(until) })
        for (const studentId of ['x', 'y']) {
          const own = stayed
            .filter((s) => s.studentId === studentId)
            .flatMap((s) =>
              all.filter((l) => l.classId === s.classId && l.at >= s.from && l.at < s.from + s.long),
            )
          const sum = (list: typeof own) => list.reduce((n, l) => n + l.n, 0)
          const toCome = (list: typeof own) => list.reduce((n, l) => n + l.toCome, 0)
          expect(counted.get(studentId) ?? noOpenSessions).toEqual({
            unmarked: sum(own.filter((l) => l.at <= until)) - toCome(own.filter((l) => l.at <= until)),
            left: sum(own.filter((l) => l.at > until)) + toCome(own.filter((l) => l.at <= until)),
          })
        }
      },
    ),
  )
})
