import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { previewOf, setMark } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let codes: Record<string, string>
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [c.code, c.id]),
  )
})
afterAll(() => school.close())

const day = '2026-11-20'
const input = (over: Partial<CommandInput<'attendance.correct'>>) => ({
  studentIds: [],
  firstDay: day,
  lastDay: day,
  sessions: ['morning' as const, 'afternoon' as const],
  codeId: codes.W ?? '',
  note: null,
  reason: 'The ferry did not run',
  replace: true,
  ...over,
})
const correct = (over: Partial<CommandInput<'attendance.correct'>>) =>
  school.execute('attendance.correct', office, input(over))
const idOf = async (sortName: string) =>
  String((await school.row('select id from student where sort_name = $1', [sortName])).id)
const marks = (where: string, values: unknown[] = []) =>
  school.rows(
    `select m.student_id, m.session_date::text as day, m.session, c.code, m.reason, m.note, m.minutes_late, m.homeroom_id
     from attendance_mark m left join attendance_code c on c.id = m.code_id
     where m.homeroom_id is not null and ${where}
     order by m.session_date, m.session desc, m.student_id`,
    values,
  )

test('everybody from Farrow gets the ferry, marked or not; all of it is undone', async () => {
  const all = good(await school.query('attendance.correctable', office, { date: day })).students
  const farrow = all.filter((s) => s.transport === 'Ferry from Farrow').map((s) => s.id)
  expect(farrow.length).toBeGreaterThan(20)
  const of = () => marks('m.session_date = $1 and m.student_id = any($2)', [day, farrow])
  const before = await of()
  const done = await correct({ studentIds: farrow })
  expect(good(done).changed + good(done).kept).toBe(2 * farrow.length)
  const after = await of()
  expect(after.every((m) => m.code === 'W')).toBe(true)
  expect(after.filter((m) => m.reason === 'The ferry did not run')).toHaveLength(good(done).changed)
  good(await school.execute('history.undo', office, { run: done.ok ? (done.run ?? '') : '' }))
  expect(await of()).toEqual(before)
})

test('lessons that are marked are corrected with the half-days; those to come take over what the half-day says', async () => {
  const farrow = good(await school.query('attendance.correctable', office, { date: day }))
    .students.filter((s) => s.transport === 'Ferry from Farrow')
    .map((s) => s.id)
  const lessons = () =>
    school.rows(
      `select m.student_id, m.session, c.code from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.class_id is not null and m.session_date = $1 and m.student_id = any($2) order by 1, 2`,
      [day, farrow],
    )
  const before = await lessons()
  expect(before.length).toBeGreaterThan(20)
  const done = await correct({ studentIds: farrow, sessions: ['morning', 'afternoon', 'lessons'] })
  expect(good(done).changed + good(done).kept).toBe(2 * farrow.length + before.length)
  expect((await lessons()).every((m) => m.code === 'W')).toBe(true)
  good(await school.execute('history.undo', office, { run: done.ok ? (done.run ?? '') : '' }))
  expect(await lessons()).toEqual(before)
  expect(good(await correct({ studentIds: farrow, sessions: ['lessons'], replace: false }))).toEqual({
    changed: 0,
    kept: before.length,
  })
})

test('days of two academic years are not corrected at once', async () => {
  const over = await correct({ firstDay: '2026-06-01', lastDay: '2026-09-04' })
  expect(over.ok).toBe(false)
})

test('marks that exist are kept unless they are to be replaced; a late mark loses its minutes', async () => {
  const late = await school.row(
    `select m.student_id, m.session_date::text as day from attendance_mark m join attendance_code c on c.id = m.code_id
     where c.code = 'L' and m.session = 'morning' limit 1`,
  )
  const at = { studentIds: [String(late.studentId)], firstDay: String(late.day), lastDay: String(late.day) }
  expect(good(await correct({ ...at, replace: false }))).toEqual({ changed: 0, kept: 2 })
  expect(good(await correct({ ...at, sessions: ['morning'], codeId: codes.A1 }))).toEqual({
    changed: 1,
    kept: 0,
  })
  const [now] = await marks('m.student_id = $1 and m.session_date = $2', [late.studentId, late.day])
  expect(now).toMatchObject({ code: 'A1', minutesLate: null })
})

test('only days on roll are marked: not before joining, in the homeroom of that day, not in the break', async () => {
  const ilse = await idOf('Okonjo-Marsh, Ilse')
  await correct({ studentIds: [ilse], firstDay: '2026-10-05', lastDay: '2026-11-03', codeId: codes.A2 })
  const own = await marks('m.student_id = $1 and m.session_date <= $2', [ilse, '2026-11-03'])
  expect(own[0]?.day).toBe('2026-10-12')
  expect(own.every((m) => m.code === 'A2')).toBe(true)
  expect(own.filter((m) => m.day >= '2026-10-26' && m.day <= '2026-10-30')).toEqual([])

  const emeka = await idOf('Kestrel, Emeka')
  await correct({ studentIds: [emeka], firstDay: '2026-09-02', lastDay: day, codeId: codes.A2 })
  const homerooms = new Set((await marks('m.student_id = $1', [emeka])).map((m) => m.homeroomId))
  expect(homerooms.size).toBe(2)
})

test('a preview shows each mark and changes nothing', async () => {
  const tobias = await idOf('Abara, Tobias')
  const before = await marks('m.student_id = $1', [tobias])
  const shown = good(
    await previewOf('attendance.correct', office, input({ studentIds: [tobias], codeId: codes.E1 })),
  )
  expect(shown.changes).toHaveLength(2)
  expect(await marks('m.student_id = $1', [tobias])).toEqual(before)
})

test('the reason stands in the history, and goes when a teacher enters another mark', async () => {
  const tobias = await idOf('Abara, Tobias')
  good(
    await correct({ studentIds: [tobias], sessions: ['morning'], codeId: codes.E1, reason: 'Shore survey' }),
  )
  const { changes } = good(await school.query('history.ofStudent', office, { studentId: tobias }))
  expect(JSON.stringify(changes[0])).toContain('Shore survey')
  const row = await school.row(
    "select homeroom_id, version from attendance_mark where student_id = $1 and session_date = $2 and session = 'morning'",
    [tobias, day],
  )
  good(
    await setMark(school, await school.actor('r.achterberg'), {
      homeroomId: String(row.homeroomId),
      date: day,
      session: 'morning',
      studentId: tobias,
      codeId: codes.P ?? '',
      minutesLate: null,
      note: null,
      expectedVersion: Number(row.version),
    }),
  )
  const [mark] = await marks("m.student_id = $1 and m.session_date = $2 and m.session = 'morning'", [
    tobias,
    day,
  ])
  expect(mark).toMatchObject({ code: 'P', reason: null })
})

test.each([
  ['a day without school', { firstDay: '2026-10-27', lastDay: '2026-10-27' }, 'There is no session on'],
  ['a day to come', { firstDay: '2026-11-24', lastDay: '2026-11-24' }, 'is in the future'],
  ['days in the wrong order', { firstDay: day, lastDay: '2026-11-19' }, 'must not be before the first day'],
  ['more than a year', { firstDay: '2025-11-01', lastDay: day }, 'at most 366 days'],
  [
    'an afternoon to come',
    { firstDay: '2026-11-23', lastDay: '2026-11-23', sessions: ['afternoon' as const] },
    'has not started',
  ],
  ['no reason', { reason: ' ' }, 'Enter the reason'],
  ['nobody', { studentIds: [] }, 'Choose at least one student'],
  ['a code that is none', { codeId: '00000000-0000-7000-8000-000000000001' }, 'not in use'],
])('%s is refused in words', async (_what, over, words) => {
  const studentIds = [await idOf('Abara, Tobias')]
  expect(bad(await correct({ studentIds, ...over })).message).toContain(words)
})
