import fc from 'fast-check'
import { cases } from '../cases'
import type { Actor } from '@/server/platform/actor'
import { schoolDays } from '@/core/calendar/school-year'
import { cycleDay, type Timetable } from '@/core/timetable/timetable'
import { bad, good, openSchool, type TestSchool } from './school'
import type { QueryInput } from '@/server/registry'

type Scope = QueryInput<'attendance.figures'>
interface Stay {
  readonly studentId: string
  readonly from: string
  readonly until: string | null
}
interface Mark {
  readonly studentId: string
  readonly date: string
  readonly session: string
  readonly homeroomId: string | null
  readonly classId: string | null
  readonly meaning: string
}

/** A lesson that a student has or had by the timetable. */
interface Expected {
  readonly studentId: string
  readonly classId: string
  readonly date: string
  readonly session: string
}

let school: TestSchool
let head: Actor
let marks: readonly Mark[]
let expected: readonly Expected[]
let places: readonly {
  readonly kind: Scope['kind']
  readonly id: string | null
  readonly stays: readonly Stay[]
}[]

const staysOf = (table: string, where: string, values: unknown[] = []) =>
  school.rows<Stay>(
    `select student_id, lower(period)::text as from, upper(period)::text as until from ${table} where ${where}`,
    values,
  )

/** Memberships that come and go, marks that are corrected, and codes whose meaning differs between two sets. */
async function shuffle() {
  let seed = 7
  const random = (n: number) => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return seed % n
  }
  const group = await school.row('select id, school_id from analysis_group order by name limit 1')
  const students = await school.rows('select student_id as id from enrolment order by student_id limit 60')
  await school.rows('delete from analysis_group_member where group_id = $1', [group.id])
  for (const { id } of students) {
    const from = `2026-09-${String(1 + random(28)).padStart(2, '0')}`
    const until = random(2) ? `2026-11-${String(1 + random(20)).padStart(2, '0')}` : null
    await school.rows(
      'insert into analysis_group_member (school_id, group_id, student_id, period) values ($1, $2, $3, daterange($4, $5))',
      [group.schoolId, group.id, id, from, until],
    )
  }
  // Corrections over existing marks, also to no mark at all.
  const codes = await school.rows('select id from attendance_code order by position')
  for (const code of [...codes, { id: null }])
    await school.rows(
      `update attendance_mark set code_id = $1 where ctid in (
        select ctid from attendance_mark order by md5(student_id::text || session_date::text || session || $2) limit 250)`,
      [code.id, String(random(1000))],
    )
  return group.id as string
}

beforeAll(async () => {
  school = await openSchool()
  head = await school.actor('s.kirkness')
  const groupId = await shuffle()
  expected = await lessonsOfAll('2026-11-01', '2026-12-18')
  marks = await school.rows<Mark>(
    `select m.student_id, m.session_date::text as date, m.session, m.homeroom_id, m.class_id, c.meaning
     from attendance_mark m join attendance_code c on c.id = m.code_id`,
  )
  const small = await school.row(
    "insert into analysis_group (school_id, id, name) select school_id, gen_random_uuid(), 'Three' from analysis_group limit 1 returning id",
  )
  await school.rows(
    "insert into analysis_group_member (school_id, group_id, student_id, period) select school_id, $1, student_id, '[2026-09-01,)' from enrolment order by student_id limit 3",
    [small.id],
  )
  const one = async (statement: string) => String((await school.row(statement)).id)
  const homeroom = await one("select id from homeroom where name = '7 Tern'")
  const schoolClass = await one("select id from class where name = '7 Science A'")
  const yearGroup = await one("select id from year_group where name = 'Year 7'")
  const student = await one("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
  places = [
    { kind: 'school', id: null, stays: await staysOf('enrolment', 'true') },
    {
      kind: 'homeroom',
      id: homeroom,
      stays: await staysOf('homeroom_member', 'homeroom_id = $1', [homeroom]),
    },
    { kind: 'class', id: schoolClass, stays: await staysOf('class_member', 'class_id = $1', [schoolClass]) },
    {
      kind: 'year group',
      id: yearGroup,
      stays: await staysOf(
        'homeroom_member',
        'homeroom_id in (select id from homeroom where year_group_id = $1)',
        [yearGroup],
      ),
    },
    { kind: 'group', id: groupId, stays: await staysOf('analysis_group_member', 'group_id = $1', [groupId]) },
    { kind: 'student', id: student, stays: await staysOf('enrolment', 'student_id = $1', [student]) },
  ]
})
afterAll(() => school.close({ meddled: true }))

/** Every lesson of every student between two days, one after the other: timetable, terms, changes and memberships. */
async function lessonsOfAll(from: string, to: string): Promise<readonly Expected[]> {
  const { year } = good(await school.query('attendance.figureChoices', head, { date: from }))
  if (!year) throw new Error('the demo has a year')
  const [timetables, lessons, terms, cancelled, stays] = await Promise.all([
    school.rows<Timetable & { id: string }>(
      'select id, first_day::text, last_day::text, cycle, cycle_days from timetable',
    ),
    school.rows<{ timetableId: string; classId: string; cycleDay: number; period: number }>(
      `select l.timetable_id, l.class_id, l.cycle_day, l.period from lesson l join class c on c.id = l.class_id
       join course k on k.id = c.course_id join year_group g on g.id = k.year_group_id where g.registers <> 'half-days'`,
    ),
    school.rows<{ classId: string; firstDay: string; lastDay: string }>(
      'select x.class_id, t.first_day::text, t.last_day::text from class_term x join term t on t.id = x.term_id',
    ),
    school.rows<{ classId: string; date: string; period: number }>(
      'select class_id, on_date::text as date, period from lesson_change where cancelled',
    ),
    school.rows<Stay & { classId: string }>(
      'select class_id, student_id, lower(period)::text as from, upper(period)::text as until from class_member',
    ),
  ])
  const runsOn = (classId: string, date: string) =>
    terms.some((t) => t.classId === classId && t.firstDay <= date && date <= t.lastDay)
  const isCancelled = new Set(cancelled.map((c) => `${c.classId} ${c.date} ${c.period}`))
  const members = new Map<string, Stay[]>()
  for (const stay of stays) members.set(stay.classId, [...(members.get(stay.classId) ?? []), stay])
  return schoolDays(year, from, to).flatMap((date) =>
    lessons
      .filter((l) => {
        const timetable = timetables.find((t) => t.id === l.timetableId)
        return timetable && cycleDay(timetable, year, date) === l.cycleDay && runsOn(l.classId, date)
      })
      .filter((l) => !isCancelled.has(`${l.classId} ${date} ${l.period}`))
      .flatMap(({ classId, period }) =>
        (members.get(classId) ?? [])
          .filter((m) => m.from <= date && (m.until === null || date < m.until))
          .map(({ studentId }) => ({ studentId, classId, date, session: String(period) })),
      ),
  )
}

/** Whether a mark was made while its student belonged to the place. */
function belongsTo(stays: readonly Stay[]) {
  const of = new Map<string, Stay[]>()
  for (const stay of stays) of.set(stay.studentId, [...(of.get(stay.studentId) ?? []), stay])
  return (m: { readonly studentId: string; readonly date: string }) =>
    (of.get(m.studentId) ?? []).some((s) => s.from <= m.date && (s.until === null || m.date < s.until))
}

/** The same figures, counted one mark after the other. */
function slow(scope: Scope, stays: readonly Stay[]) {
  const until = scope.to < scope.date ? scope.to : scope.date
  const belongs = belongsTo(stays)
  const own = marks.filter(
    (m) =>
      m.date >= scope.from &&
      m.date <= until &&
      (scope.sessions === 'half-days'
        ? m.homeroomId !== null
        : m.classId !== null && (scope.kind !== 'class' || m.classId === scope.id)) &&
      belongs(m),
  )
  const count = (list: readonly Mark[]) => {
    const of = (...meanings: string[]) => list.filter((m) => meanings.includes(m.meaning)).length
    return {
      possible: list.length - of('not expected'),
      present: of('present', 'late', 'elsewhere'),
      late: of('late'),
      elsewhere: of('elsewhere'),
      withReason: of('absent with reason'),
      withoutReason: of('absent without reason'),
      notExpected: of('not expected'),
    }
  }
  const by = <K>(key: (m: Mark) => K) => {
    const groups = new Map<K, Mark[]>()
    for (const m of own) {
      const list = groups.get(key(m))
      if (list) list.push(m)
      else groups.set(key(m), [m])
    }
    return new Map([...groups].map(([k, list]) => [k, count(list)]))
  }
  const weekday = (date: string) => new Date(`${date}T00:00:00Z`).getUTCDay() || 7
  const monday = (date: string) =>
    new Date(Date.parse(date) - (weekday(date) - 1) * 86400000).toISOString().slice(0, 10)
  return {
    total: count(own),
    byStudent: by((m) => m.studentId),
    byWeekday: by((m) => weekday(m.date)),
    bySession: by((m) => m.session),
    byWeek: by((m) => monday(m.date)),
    byHomeroom: by((m) => m.homeroomId),
  }
}

const day = fc
  .integer({ min: 0, max: 100 })
  .map((n) => new Date(Date.UTC(2026, 8, 1 + n)).toISOString().slice(0, 10))

test('all figures are what a slow count over the same histories gives', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.nat({ max: 5 }),
      day,
      day,
      day,
      fc.constantFrom('half-days' as const, 'lessons' as const),
      async (at, a, b, date, sessions) => {
        const place = places[at]
        if (!place) throw new Error('there are six places')
        const scope = {
          kind: place.kind,
          id: place.id,
          from: a < b ? a : b,
          to: a < b ? b : a,
          date,
          sessions,
        }
        const fast = good(await school.query('attendance.figures', head, scope))
        const counted = slow(scope, place.stays)
        if (fast.hidden) return expect(counted.byStudent.size).toBeLessThan(5)
        expect(fast.total).toMatchObject(counted.total)
        for (const s of fast.students)
          expect(s.figures).toMatchObject(counted.byStudent.get(s.id) ?? { possible: 0, present: 0 })
        expect(new Map(fast.byWeekday.map((r) => [r.weekday, r.figures.possible]))).toEqual(
          new Map([...counted.byWeekday].sort(([x], [y]) => x - y).map(([k, f]) => [k, f.possible])),
        )
        for (const r of fast.bySession)
          expect(r.figures).toMatchObject(counted.bySession.get(r.session) ?? {})
        for (const r of fast.byWeek) expect(r.figures).toMatchObject(counted.byWeek.get(r.week) ?? {})
        for (const r of fast.byHomeroom)
          if (r.figures) expect(r.figures).toMatchObject(counted.byHomeroom.get(r.id) ?? {})
        const behind = good(await school.query('attendance.sessionsBehind', head, scope))
        expect(behind.all).toBe(counted.total.possible + counted.total.notExpected)
      },
    ),
    { numRuns: cases(40), seed: 1 },
  )
})

test('half-days on roll without a mark are counted apart, and lower nobody', async () => {
  const place = places.find((p) => p.kind === 'homeroom')
  const scope = {
    kind: 'homeroom' as const,
    id: place?.id ?? null,
    from: '2026-11-23',
    to: '2026-12-18',
    date: '2026-11-23',
    sessions: 'half-days' as const,
  }
  const figures = good(await school.query('attendance.figures', head, scope))
  if (figures.hidden) throw new Error('a homeroom is no small group')
  // It is five past nine: the afternoon has not begun, lacks no mark, and is still to come.
  expect(figures.total.unmarked + figures.total.possible + figures.total.notExpected).toBe(28)
  expect(new Set(figures.students.map((s) => s.left))).toEqual(new Set([2 * 19 + 1]))
})

test('lessons without a mark and to come are those of the timetable, whoever the figures are of', async () => {
  const marked = new Set(
    marks.filter((m) => m.classId).map((m) => `${m.studentId} ${m.classId} ${m.date} ${m.session}`),
  )
  // It is five past nine: the registers of lessons until a quarter past have opened.
  const starts = new Map(
    (await school.rows('select number::text, starts::text from timetable_period')).map((p) => [
      p.number,
      p.starts,
    ]),
  )
  const hasBegun = (e: { date: string; session: string }) =>
    e.date < '2026-11-23' || (e.date === '2026-11-23' && (starts.get(e.session) ?? '') <= '09:15:00')
  let expectedVersion = 0
  for (const place of places) {
    const scope = {
      kind: place.kind,
      id: place.id,
      from: '2026-11-01',
      to: '2026-12-18',
      date: '2026-11-23',
      sessions: 'lessons' as const,
    }
    const figures = good(await school.query('attendance.figures', head, scope))
    if (figures.hidden) continue
    const belongs = belongsTo(place.stays)
    const own = expected.filter((e) => belongs(e) && (place.kind !== 'class' || e.classId === place.id))
    for (const s of figures.students) {
      const lessons = own.filter((e) => e.studentId === s.id)
      const open = lessons.filter(
        (e) => hasBegun(e) && !marked.has(`${e.studentId} ${e.classId} ${e.date} ${e.session}`),
      )
      expect([s.name, s.figures.unmarked, s.left]).toEqual([
        s.name,
        open.length,
        lessons.filter((e) => !hasBegun(e)).length,
      ])
      expectedVersion += lessons.length
    }
  }
  expect(expectedVersion).toBeGreaterThan(1000)
})

test('a group of fewer than five has no figures, but its students have', async () => {
  const small = await school.row("select id from analysis_group where name = 'Three'")
  const scope = {
    kind: 'group' as const,
    id: String(small.id),
    from: '2026-09-01',
    to: '2026-12-18',
    date: '2026-11-23',
    sessions: 'half-days' as const,
  }
  expect(good(await school.query('attendance.figures', head, scope))).toEqual({ hidden: true, students: 3 })
})

test('a teacher sees the figures of the own homeroom, class and students, and of nobody else', async () => {
  const remi = await school.actor('r.achterberg')
  const { choices, whole } = good(
    await school.query('attendance.figureChoices', remi, { date: '2026-11-23' }),
  )
  expect(whole).toBe(false)
  expect(choices.map((c) => c.name)).toEqual(expect.arrayContaining(['7 Tern', '7 Science A']))
  expect(choices.map((c) => c.kind)).not.toContain('year group')
  for (const place of places.filter(
    (p) => p.kind === 'school' || p.kind === 'year group' || p.kind === 'group',
  )) {
    const scope = {
      kind: place.kind,
      id: place.id,
      from: '2026-09-01',
      to: '2026-12-18',
      date: '2026-11-23',
      sessions: 'half-days' as const,
    }
    expect(bad(await school.query('attendance.figures', remi, scope)).kind).toBe('not found')
    expect(bad(await school.query('attendance.sessionsBehind', remi, scope)).kind).toBe('not found')
  }
})
