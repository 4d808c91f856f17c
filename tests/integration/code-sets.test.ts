import { v7 as uuid } from 'uuid'
import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { setMark } from './acts'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let admin: Actor
let teacher: Actor
let office: Actor
let homeroomId: string
beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
  teacher = await school.actor('r.achterberg')
  office = await school.actor('e.leask')
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
})
afterAll(() => school.close())

const sets = async () => good(await school.query('attendance.codeSets', admin, {})).sets
type Input = CommandInput<'attendance.saveCodeSet'>

/** The newest set as a form would send it, with new codes where it is to be another set. */
async function asInput(over: Partial<Input> = {}, { another = false } = {}): Promise<Input> {
  const [set] = await sets()
  if (!set) throw new Error('no set')
  return {
    setId: another ? null : set.id,
    expectedVersion: another ? 0 : set.version,
    name: set.name,
    firstDay: set.firstDay,
    lastDay: set.lastDay,
    codes: set.codes.map((c) => ({ ...c, id: another ? uuid() : c.id })),
    ...over,
  }
}
const register = async (date: string, actor = teacher) =>
  good(await school.query('attendance.register', actor, { homeroomId, date, session: 'morning' }))
const marksOn = async (date: string) =>
  (
    await school.rows(
      `select c.code, c.set_id from attendance_mark m join attendance_code c on c.id = m.code_id
       where m.session_date = $1 order by m.student_id, m.session`,
      [date],
    )
  ).map((r) => ({ code: String(r.code), set: String(r.setId) }))

test('a new set starts on a date: older registers keep theirs, and marks from then on take the same code of it', async () => {
  const before = { old: await marksOn('2026-11-17'), later: await marksOn('2026-11-19') }
  const input = await asInput({ name: 'Winter codes', firstDay: '2026-11-18' }, { another: true })
  const { setId } = good(await school.execute('attendance.saveCodeSet', admin, input))
  const [winter, usual] = await sets()
  expect(winter).toMatchObject({ name: 'Winter codes', firstDay: '2026-11-18', lastDay: null })
  expect(usual?.lastDay).toBe('2026-11-17')
  expect(await marksOn('2026-11-17')).toEqual(before.old)
  const later = await marksOn('2026-11-19')
  expect(later.map((m) => m.code)).toEqual(before.later.map((m) => m.code))
  expect(new Set(later.map((m) => m.set))).toEqual(new Set([setId]))
  expect((await register('2026-11-17')).codes.map((c) => c.id)).toEqual(usual?.codes.map((c) => c.id))
  expect((await register('2026-11-19')).codes.map((c) => c.id)).toEqual(winter?.codes.map((c) => c.id))
  // A code of the older set cannot be entered any more.
  const [student] = (await register('2026-11-23')).rows
  const refused = await setMark(school, teacher, {
    homeroomId,
    date: '2026-11-23',
    session: 'morning',
    studentId: student?.studentId ?? '',
    codeId: usual?.codes[0]?.id ?? '',
    minutesLate: null,
    note: null,
    expectedVersion: 0,
  })
  expect(bad(refused).message).toContain('not in use on Mon 23 Nov 2026')
})

test('all of it can be undone', async () => {
  const before = await marksOn('2026-11-20')
  const input = await asInput({ name: 'From Friday', firstDay: '2026-11-20' }, { another: true })
  const done = await school.execute('attendance.saveCodeSet', admin, input)
  good(done)
  expect(await marksOn('2026-11-20')).not.toEqual(before)
  good(await school.execute('history.undo', admin, { run: done.ok ? (done.run ?? '') : '' }))
  expect(await marksOn('2026-11-20')).toEqual(before)
  expect((await sets()).map((s) => s.name)).not.toContain('From Friday')
})

test('marks are never left without a code: nothing is done, and the codes are named', async () => {
  const input = await asInput({ name: 'Short', firstDay: '2026-11-20' }, { another: true })
  const short = { ...input, codes: input.codes.filter((c) => ['P', 'A'].includes(c.code)) }
  const message = bad(await school.execute('attendance.saveCodeSet', admin, short)).message
  expect(message).toMatch(/would be left without a code: .*A1 \(\d+, /)
  const own = await asInput({ lastDay: '2026-11-19' })
  expect(bad(await school.execute('attendance.saveCodeSet', admin, own)).message).toContain('P (')
  expect((await sets()).map((s) => s.name)).not.toContain('Short')
})

test('a code with marks stays; one without is removed; two can change places', async () => {
  const input = await asInput()
  const without = { ...input, codes: input.codes.filter((c) => c.code !== 'A1') }
  expect(bad(await school.execute('attendance.saveCodeSet', admin, without)).message).toMatch(
    /A1 cannot be removed: \d+ marks use it/,
  )
  const [e2] = input.codes.filter((c) => c.code === 'E2')
  const codes = input.codes
    .filter((c) => c !== e2)
    .map((c) => (c.code === 'A2' ? { ...c, code: 'A3' } : c.code === 'A3' ? { ...c, code: 'A2' } : c))
  good(await school.execute('attendance.saveCodeSet', admin, { ...input, codes }))
  const [set] = await sets()
  expect(set?.codes.map((c) => c.code)).toEqual(codes.map((c) => c.code))
  expect(set?.codes.find((c) => c.code === 'A3')?.id).toBe(input.codes.find((c) => c.code === 'A2')?.id)
})

test('two administrators at one set: the second is told, and nothing is overwritten', async () => {
  const input = await asInput()
  good(await school.execute('attendance.saveCodeSet', admin, { ...input, name: 'Named first' }))
  const second = await school.execute('attendance.saveCodeSet', admin, { ...input, name: 'Named second' })
  expect(bad(second).kind).toBe('conflict')
  expect((await sets())[0]?.name).toBe('Named first')
})

test('sets of the same days are refused, and so are codes that cannot be told apart', async () => {
  const [, usual] = await sets()
  const input = await asInput(
    { name: 'Between', firstDay: '2026-10-01', lastDay: '2026-10-10' },
    { another: true },
  )
  expect(bad(await school.execute('attendance.saveCodeSet', admin, input)).message).toContain(
    `${usual?.name} is in use from`,
  )
  const own = await asInput()
  const [first] = own.codes
  const twin = { ...own, codes: first ? [...own.codes, { ...first, id: uuid(), code: 'AI' }] : [] }
  expect(bad(await school.execute('attendance.saveCodeSet', admin, twin)).message).toContain(
    'AI is easily mistaken for A1',
  )
})

test('a code for the office is refused to teachers; a mark that lacks its note is not complete', async () => {
  const input = await asInput()
  const codes = input.codes.map((c) =>
    c.code === 'N' ? { ...c, officeOnly: true } : c.code === 'E1' ? { ...c, needsNote: true } : c,
  )
  good(await school.execute('attendance.saveCodeSet', admin, { ...input, codes }))
  const day = await register('2026-11-23')
  const code = (name: string) => day.codes.find((c) => c.code === name)
  expect(code('N')?.usable).toBe(false)
  expect((await register('2026-11-23', office)).codes.find((c) => c.code === 'N')?.usable).toBe(true)
  const student = day.rows.find((r) => r.mark === null)
  const mark = (actor: Actor, name: string, more: object = {}) =>
    setMark(school, actor, {
      homeroomId,
      date: '2026-11-23',
      session: 'morning',
      studentId: student?.studentId ?? '',
      codeId: code(name)?.id ?? '',
      minutesLate: null,
      note: null,
      expectedVersion: 0,
      ...more,
    })
  expect(bad(await mark(teacher, 'N')).message).toContain('Choose one from the list of codes.')
  const marked = async () =>
    good(await school.query('attendance.registersOfDay', office, { date: '2026-11-23' })).registers.find(
      (r) => r.id === homeroomId,
    )?.morning
  const before = (await marked()) ?? 0
  const [e1] = good(await mark(teacher, 'E1'))
  expect(await marked()).toBe(before)
  good(await mark(teacher, 'E1', { note: 'Shore survey', expectedVersion: e1?.version ?? 0 }))
  expect(await marked()).toBe(before + 1)
})

test('two who start a set for the same days at once: one is saved, the other told in words', async () => {
  const days = { name: 'Far ahead', firstDay: '2028-01-01', lastDay: '2028-06-30' }
  const inputs = [await asInput(days, { another: true }), await asInput(days, { another: true })]
  const both = await Promise.all(inputs.map((one) => school.execute('attendance.saveCodeSet', admin, one)))
  const failed = both.find((r) => !r.ok)
  expect(both.filter((r) => r.ok)).toHaveLength(1)
  expect(failed && bad(failed).message).toContain('Far ahead is in use from')
  const made = both.find((r) => r.ok)
  good(await school.execute('history.undo', admin, { run: made?.ok ? (made.run ?? '') : '' }))
})

test('the only set stays; one without marks is removed', async () => {
  const input = await asInput(
    { name: 'Next autumn', firstDay: '2027-09-01', lastDay: null },
    { another: true },
  )
  const { setId } = good(await school.execute('attendance.saveCodeSet', admin, input))
  const [next] = await sets()
  good(
    await school.execute('attendance.removeCodeSet', admin, { setId, expectedVersion: next?.version ?? 0 }),
  )
  const [used] = await sets()
  expect(used?.name).not.toBe('Next autumn')
  const removal = { setId: used?.id ?? '', expectedVersion: used?.version ?? 0 }
  expect(bad(await school.execute('attendance.removeCodeSet', admin, removal)).message).toContain(
    'cannot be removed',
  )
})
