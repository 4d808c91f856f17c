import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let teacher: Actor
let homeroomId: string
let codes: Record<string, string>
let tobias: string
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  teacher = await school.actor('r.achterberg')
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
  tobias = String((await school.row("select id from student where sort_name = 'Abara, Tobias'")).id)
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [c.code, c.id]),
  )
})
afterAll(() => school.close())

const plan = (over: Partial<CommandInput<'attendance.savePlanned'>> = {}, actor = office) =>
  school.execute('attendance.savePlanned', actor, {
    plannedId: null,
    expectedVersion: 0,
    studentId: tobias,
    firstDay: '2026-11-23',
    lastDay: '2026-11-27',
    sessions: 'whole day',
    codeId: codes.A2 ?? '',
    note: 'Family visit',
    ...over,
  })
const at = async (date: string, session: 'morning' | 'afternoon' = 'morning') =>
  good(await school.query('attendance.register', teacher, { homeroomId, date, session })).rows.find(
    (r) => r.studentId === tobias,
  )
const planned = async () =>
  good(await school.query('attendance.planned', office, { date: '2026-11-23' })).absences.filter(
    (a) => a.studentId === tobias,
  )

test('a planned absence stands in the registers of its days before they are taken, and on no other', async () => {
  good(await plan())
  expect((await at('2026-11-23'))?.planned).toMatchObject({ codeId: codes.A2, note: 'Family visit' })
  expect((await at('2026-11-23'))?.mark).toBeNull()
  expect((await at('2026-11-27', 'afternoon'))?.planned).not.toBeNull()
  expect((await at('2026-11-20'))?.planned).toBeNull()
  expect((await at('2026-11-30'))?.planned).toBeNull()
})

test('marking the rest gives the planned code to those it is planned for, and present to the others', async () => {
  const asked = { homeroomId, date: '2026-11-23', session: 'morning' as const, codeId: codes.P ?? '' }
  const done = await school.execute('attendance.markRest', teacher, asked)
  expect(good(done).length).toBe(28)
  expect((await at('2026-11-23'))?.mark?.codeId).toBe(codes.A2)
  const present = await school.rows(
    "select 1 from attendance_mark where homeroom_id = $1 and session_date = '2026-11-23' and session = 'morning' and code_id = $2",
    [homeroomId, codes.P],
  )
  expect(present).toHaveLength(27)
  good(await school.execute('history.undo', teacher, { run: done.ok ? (done.run ?? '') : '' }))
})

test('a second absence on the same half-days is refused, also when two enter it at once; other half-days are free', async () => {
  expect(bad(await plan({ firstDay: '2026-11-27', lastDay: '2026-12-01' })).message).toContain(
    'A2 is already planned for this student from Mon 23 Nov 2026 to Fri 27 Nov 2026',
  )
  const afternoon = { firstDay: '2026-12-03', lastDay: '2026-12-03', sessions: 'afternoon' as const }
  const both = await Promise.all([plan(afternoon), plan(afternoon)])
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  good(await plan({ ...afternoon, sessions: 'morning' }))
  expect(bad(await plan({ ...afternoon, sessions: 'whole day' })).kind).toBe('invalid')
  expect((await at('2026-12-03', 'afternoon'))?.planned).not.toBeNull()
})

test('the office ends it on any day: the day before is its last, and it can be undone; a teacher only today', async () => {
  const [first] = await planned()
  const end = {
    homeroomId,
    date: '2026-11-25',
    plannedId: first?.id ?? '',
    expectedVersion: first?.version ?? 0,
  }
  expect(bad(await school.execute('attendance.endPlanned', teacher, end)).message).toContain('of today only')
  const done = await school.execute('attendance.endPlanned', office, end)
  good(done)
  expect((await planned())[0]?.lastDay).toBe('2026-11-24')
  // Said twice, as after a lost answer, it changes nothing more.
  expect(bad(await school.execute('attendance.endPlanned', office, end)).message).toContain(
    'no longer planned',
  )
  good(await school.execute('history.undo', office, { run: done.ok ? (done.run ?? '') : '' }))
  expect((await planned())[0]?.lastDay).toBe('2026-11-27')
})

test('on its first day it goes altogether; of another homeroom nobody ends it', async () => {
  const [first] = await planned()
  const plover = (await school.row("select id from homeroom where name = '7 Plover'")).id
  const end = {
    homeroomId,
    date: '2026-11-23',
    plannedId: first?.id ?? '',
    expectedVersion: first?.version ?? 0,
  }
  const elsewhere = { ...end, homeroomId: String(plover) }
  expect(bad(await school.execute('attendance.endPlanned', office, elsewhere)).message).toContain(
    'not on the roll',
  )
  // A teacher of another homeroom, who may mark any register, leaves plans alone.
  const { username } = await school.row(
    `select u.username from membership m join auth."user" u on u.id = m.account_id group by u.username, m.person_id
      having array_agg(m.role) = array['teacher'] and not exists (
        select 1 from homeroom_teacher t where t.staff_id = m.person_id and t.homeroom_id = $1) order by 1 limit 1`,
    [homeroomId],
  )
  const other = await school.actor(String(username))
  expect(bad(await school.execute('attendance.endPlanned', other, end)).kind).toBe('not found')
  good(await school.execute('attendance.endPlanned', teacher, end))
  expect((await planned()).map((a) => a.firstDay)).not.toContain('2026-11-23')
})

test('it is changed with the version that was seen, and removed', async () => {
  const { plannedId } = good(await plan({ firstDay: '2027-01-11', lastDay: '2027-01-12' }))
  const change = { plannedId, firstDay: '2027-01-11', lastDay: '2027-01-13' }
  const expectedVersion = (await planned()).find((a) => a.id === plannedId)?.version ?? 0
  good(await plan({ ...change, expectedVersion }))
  expect(bad(await plan({ ...change, expectedVersion, note: 'Later' })).kind).toBe('conflict')
  good(
    await school.execute('attendance.removePlanned', office, {
      plannedId: plannedId,
      expectedVersion: expectedVersion + 1,
    }),
  )
  expect((await planned()).some((a) => a.id === plannedId)).toBe(false)
})

test.each([
  ['a code for present', () => ({ codeId: codes.P }), 'Choose a code for an absence'],
  ['days in the wrong order', () => ({ lastDay: '2026-11-20' }), 'must not be before the first day'],
  ['years', () => ({ lastDay: '2028-11-20' }), 'at most a year'],
])('%s is refused in words', async (_what, over, words) =>
  expect(bad(await plan({ firstDay: '2027-03-01', lastDay: '2027-03-01', ...over() })).message).toContain(
    words,
  ),
)
