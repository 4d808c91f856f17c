import { termMark } from '@/core/marks/term-mark'
import { usualRules } from '@/core/marks/usual-settings'
import type { ScoreEntry } from '@/core/marks/gradebook'
import { attendanceRows } from './attendance'
import { demoDate, septemberOf, wracklineYear } from './calendar'
import { heatAndIce } from './heat-and-ice'
import { marksRows } from './marks'
import { makePeople, placesOf } from './people'
import { seeded } from './random'
import { makeStructure, structureRows } from './structure'

function school(date = '2026-11-23') {
  const random = seeded(20261123)
  const year = wracklineYear(septemberOf(date), random)
  const structure = makeStructure(year, demoDate(date, year), random)
  return { random, structure, people: makePeople(structure, random) }
}

test('the same date makes the same school', () => {
  const [a, b] = [school(), school()]
  expect(JSON.stringify(structureRows({ id: 's' }, a.structure))).toBe(
    JSON.stringify(structureRows({ id: 's' }, b.structure)),
  )
  expect(JSON.stringify(a.people)).toBe(JSON.stringify(b.people))
})

test('has the size and the people the school is known for', () => {
  const { structure, people } = school()
  const of = (given: string) => people.students.find((s) => s.given === given && s.homeroom.name === '7 Tern')
  expect(structure.homerooms).toHaveLength(24)
  expect(structure.staff.filter((s) => s.role === 'teacher')).toHaveLength(46)
  expect(people.students.length).toBeGreaterThan(590)
  expect(people.students.length).toBeLessThan(650)
  expect(of('Ilse')?.since).toBe('2026-10-12')
  expect(of('Emeka')?.earlier).toMatchObject({ until: '2026-11-09', homeroom: { name: '7 Plover' } })
  expect(new Set(of('Rui')?.guardians.map((g) => g.guardian.address)).size).toBe(2)
  expect(people.students.filter((s) => s.supportNote).length).toBeGreaterThanOrEqual(3)
  expect(new Set(people.students.map((s) => s.number)).size).toBe(people.students.length)
  expect(new Set(people.students.map((s) => s.id)).size).toBe(people.students.length)
})

test('a student who moved is in the classes of both homerooms, one after the other', () => {
  const { structure, people } = school()
  const emeka = people.students.find((s) => s.earlier)
  const places = emeka ? placesOf(structure, emeka) : []
  expect(places.filter((p) => p.until === '2026-11-09')).toHaveLength(11)
  expect(places.filter((p) => p.from === '2026-11-09')).toHaveLength(11)
})

test('any day gives a school day in a year that is under way', () => {
  for (const [date, expected] of [
    ['2026-11-23', '2026-11-23'],
    ['2026-11-22', '2026-11-20'],
    ['2026-12-25', '2026-12-18'],
    ['2027-08-10', '2027-07-16'],
    ['2027-03-03', '2027-03-03'],
  ] as const)
    expect(school(date).structure.today).toBe(expected)
})

test('nobody has a mark before joining, and only one for each half-day', () => {
  const { random, structure, people } = school()
  const rows = attendanceRows({ id: 's' }, structure, people, random)
  const marks = rows.find(([t]) => t === 'attendance_mark')?.[1] as {
    student_id: string
    session_date: string
    session: string
  }[]
  const ilse = people.students.find((s) => s.given === 'Ilse' && s.family === 'Okonjo-Marsh')
  expect(marks.filter((m) => m.student_id === ilse?.id && m.session_date < '2026-10-12')).toEqual([])
  expect(new Set(marks.map((m) => `${m.student_id} ${m.session_date} ${m.session}`)).size).toBe(marks.length)
})

test('scores go together as a student does: marks of two classes correlate', () => {
  const { random, structure, people } = school()
  const { rows } = marksRows({ id: 's' }, structure, people, random)
  const table = (name: string) => (rows.find(([t]) => t === name)?.[1] ?? []) as Record<string, any>[]
  const markIn = (className: string, studentId: string) => {
    const c = structure.classes.find((x) => x.name === className)
    const categories = table('category').filter(
      (x) => x.class_id === c?.id && x.term_id === structure.year.terms[0]?.id,
    )
    const assignments = table('assignment').filter((a) => a.class_id === c?.id)
    const entries = new Map(
      table('score')
        .filter((s) => s.student_id === studentId && assignments.some((a) => a.id === s.assignment_id))
        .map((s): [string, ScoreEntry] => [
          s.assignment_id,
          s.standing ? { kind: s.standing } : { kind: 'points', points: String(s.points) },
        ]),
    )
    const book = {
      rules: { ...usualRules, bands: [] },
      categories: categories.map((x) => ({
        id: x.id,
        name: x.name,
        weight: String(x.weight),
        within: 'points' as const,
        dropLowest: x.drop_lowest,
      })),
      assignments: assignments.map((a) => ({
        id: a.id,
        name: a.name,
        categoryId: a.category_id,
        maxPoints: String(a.max_points),
        dueOn: a.due_on,
        counts: true,
        extra: false,
      })),
    }
    return Number(termMark(book, entries, { on: structure.today, since: structure.year.firstDay }).mark)
  }
  const pupils = people.students.filter((s) => s.homeroom.name === '9 Tern')
  const pairs = pupils
    .map((s) => [markIn('9 English A', s.id), markIn('9 Mathematics A', s.id)] as const)
    .filter(([x, y]) => Number.isFinite(x) && Number.isFinite(y))
  const mean = (xs: number[]) => xs.reduce((a, b) => a + b, 0) / xs.length
  const [mx, my] = [mean(pairs.map((p) => p[0])), mean(pairs.map((p) => p[1]))]
  const cov = pairs.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0)
  const r =
    cov /
    Math.sqrt(
      pairs.reduce((s, [x]) => s + (x - mx) ** 2, 0) * pairs.reduce((s, [, y]) => s + (y - my) ** 2, 0),
    )
  expect(pairs.length).toBeGreaterThan(20)
  expect(r).toBeGreaterThan(0.4)
  expect(r).toBeLessThan(0.98)
  expect(mx).toBeGreaterThan(65)
  expect(mx).toBeLessThan(90)
})

test('the demo test has the key CBDAACDBBA and a page for every question', () => {
  expect(heatAndIce.map((q) => q.key).join('')).toBe('CBDAACDBBA')
  expect(heatAndIce.every((q) => q.choices.length === 4 && q.page >= 1)).toBe(true)
})
