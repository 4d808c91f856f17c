import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
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

const date = '2026-11-20'
const list = async () => good(await school.query('attendance.callList', office, { date })).students
const note = (studentId: string, over: Partial<CommandInput<'attendance.noteCall'>> = {}) =>
  school.execute('attendance.noteCall', office, {
    studentId,
    date,
    guardianId: null,
    outcome: 'no answer',
    note: null,
    callAgain: null,
    codeId: null,
    ...over,
  })
const first = async () => {
  const [student] = await list()
  if (!student) throw new Error('nobody is absent without a reason')
  return student
}

test('holds whoever is absent without a reason, with guardians in the order to call', async () => {
  const expected = await school.rows(
    `select distinct s.sort_name from attendance_mark m join attendance_code c on c.id = m.code_id
     join student s on s.id = m.student_id where m.session_date = $1 and c.code = 'A' order by 1`,
    [date],
  )
  const students = await list()
  expect(students.map((s) => s.name).sort()).toEqual(expected.map((r) => String(r.sortName)).sort())
  expect(students.length).toBeGreaterThan(0)
  for (const { studentId, guardians } of students) {
    const rows = await school.rows(
      'select guardian_id from guardianship where student_id = $1 order by contact_order',
      [studentId],
    )
    expect(guardians.map((g) => g.id)).toEqual(rows.map((r) => r.guardianId))
  }
})

test('a call is noted with when to call again; the student stays on the list', async () => {
  const { studentId, guardians } = await first()
  const guardianId = guardians[0]?.id
  good(await note(studentId, { guardianId, callAgain: '10:30', note: 'Rang twice' }))
  const student = (await list()).find((s) => s.studentId === studentId)
  expect(student?.calls).toMatchObject([
    {
      outcome: 'no answer',
      callAgain: '10:30',
      note: 'Rang twice',
      guardian: guardians[0]?.name,
      by: office.name,
    },
  ])
})

test('the reason changes the unexplained marks of the day, and no other; all of it is undone', async () => {
  const { studentId, sessions } = await first()
  const marks = () =>
    school.rows(
      `select m.session_date::text as day, m.session, c.code from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.student_id = $1 order by 1, 2`,
      [studentId],
    )
  const before = await marks()
  const done = await note(studentId, { outcome: 'reached', codeId: codes.A1 })
  expect(good(done).changed).toBe(sessions.length)
  const after = await marks()
  expect(after.filter((m, i) => m.code !== before[i]?.code)).toEqual(
    before.filter((m) => m.day === date && m.code === 'A').map((m) => ({ ...m, code: 'A1' })),
  )
  expect((await list()).map((s) => s.studentId)).not.toContain(studentId)
  // The same reason said twice changes nothing more; another one is not passed over unsaid.
  expect(good(await note(studentId, { outcome: 'reached', codeId: codes.A1 })).changed).toBe(0)
  expect(bad(await note(studentId, { outcome: 'reached', codeId: codes.A2 })).message).toContain(
    `${office.name} has entered A1`,
  )
  expect(await marks()).toEqual(after)
  good(await school.execute('history.undo', office, { run: done.ok ? (done.run ?? '') : '' }))
  expect(await marks()).toEqual(before)
})

test.each([
  ['a time that is none', { callAgain: '25:00' }, 'Enter a time'],
  ['a day to come', { date: '2026-11-24' }, 'is in the future'],
  ['a code that is none', { codeId: '00000000-0000-7000-8000-000000000001' }, 'not in use'],
])('%s is refused in words', async (_what, over, words) =>
  expect(bad(await note((await first()).studentId, over)).message).toContain(words),
)

test('a guardian of another student is refused', async () => {
  const { studentId } = await first()
  const other = await school.row('select guardian_id from guardianship where student_id <> $1 limit 1', [
    studentId,
  ])
  const own = await school.rows('select 1 from guardianship where student_id = $1 and guardian_id = $2', [
    studentId,
    other.guardianId,
  ])
  expect(own).toEqual([])
  expect(bad(await note(studentId, { guardianId: String(other.guardianId) })).message).toContain(
    'not a guardian',
  )
})

test('a late mark of the same day is no other reason', async () => {
  const { studentId } = await school.row<{ studentId: string }>(
    `select m.student_id from attendance_mark m join attendance_code c on c.id = m.code_id
     where m.session_date = $1 group by m.student_id
     having bool_or(c.code = 'A') and bool_or(c.code <> 'A') order by 1 limit 1`,
    [date],
  )
  good(await note(studentId, { outcome: 'reached', codeId: codes.A1 }))
  const late = await school.rows(
    `update attendance_mark set code_id = $1, changed_at = now() + interval '1 hour'
     where ctid = (select m.ctid from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.student_id = $2 and m.session_date = $3 and c.code <> 'A1' limit 1) returning 1`,
    [codes.L, studentId, date],
  )
  expect(late).toHaveLength(1)
  expect(good(await note(studentId, { outcome: 'reached', codeId: codes.A1 })).changed).toBe(0)
  expect(bad(await note(studentId, { outcome: 'reached', codeId: codes.A2 })).message).toContain(
    'has entered A1',
  )
})
