import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'
import { setMark } from './acts'

let school: TestSchool
let teacher: Actor
let office: Actor
let homeroomId: string
let codes: Record<string, string>
const at = { date: '2026-11-23', session: 'morning' } as const
beforeAll(async () => {
  school = await openSchool()
  teacher = await school.actor('r.achterberg')
  office = await school.actor('e.leask')
  homeroomId = (await school.row("select id from homeroom where name = '7 Tern'")).id
  codes = Object.fromEntries(
    (await school.rows('select code, id from attendance_code')).map((c) => [c.code, c.id]),
  )
})
afterAll(() => school.close())

const register = async (date: string = at.date, session: 'morning' | 'afternoon' = 'morning') =>
  good(await school.query('attendance.register', teacher, { homeroomId, date, session }))
const idOf = async (name: string) =>
  (await register()).rows.find((r) => r.name.startsWith(name))?.studentId ?? ''
const mark = (studentId: string, code: string | null, over: object = {}, actor = teacher) =>
  setMark(school, actor, {
    homeroomId,
    ...at,
    studentId,
    codeId: code ? (codes[code] ?? '') : null,
    minutesLate: null,
    note: null,
    expectedVersion: 0,
    ...over,
  })

test('holds everyone on roll in name order, the expected applicant and the last twenty half-days', async () => {
  const r = await register()
  expect(r.rows.map((x) => x.name)).toEqual([...r.rows.map((x) => x.name)].sort((a, b) => a.localeCompare(b)))
  expect(r.rows.filter((x) => x.expected).map((x) => x.name)).toEqual(['Iversen, Noor'])
  expect(r.sessions).toHaveLength(20)
  expect(r.sessions.at(-1)).toEqual({ date: '2026-11-20', session: 'afternoon' })
  expect(r.rows.every((x) => x.recent.length === 20)).toBe(true)
  // The applicant was on no roll before today.
  expect(r.rows.find((x) => x.expected)?.recent.every((m) => m.meaning === 'not on roll')).toBe(true)
})

test('one who joined in October is not on the roll of September, nor absent then', async () => {
  const september = await register('2026-09-21')
  expect(september.rows.some((x) => x.name === 'Okonjo-Marsh, Ilse')).toBe(false)
  const ilse = (await register()).rows.find((x) => x.name === 'Okonjo-Marsh, Ilse')
  // From 12 October to 20 November, without the break: 5 weeks of 10 half-days.
  expect((ilse?.figures?.possible ?? 0) + (ilse?.figures?.unmarked ?? 0)).toBeLessThanOrEqual(52)
})

test('one who moved homeroom is in the old one until the day before, and in the new one from that day', async () => {
  const plover = (await school.row("select id from homeroom where name = '7 Plover'")).id
  const isIn = async (id: string, date: string) =>
    good(
      await school.query('attendance.register', teacher, { homeroomId: id, date, session: 'morning' }),
    ).rows.some((r) => r.name === 'Kestrel, Emeka')
  expect([
    await isIn(plover, '2026-11-06'),
    await isIn(homeroomId, '2026-11-06'),
    await isIn(plover, '2026-11-09'),
    await isIn(homeroomId, '2026-11-09'),
  ]).toEqual([true, false, false, true])
})

test('a mark is kept with who made it, a second look at it expects its version', async () => {
  const studentId = await idOf('Abara')
  const [first] = good(await mark(studentId, 'A1', { note: 'Guardian rang' }))
  expect((await register()).rows.find((r) => r.studentId === studentId)?.mark).toMatchObject({
    version: first?.version,
    changedBy: 'Remi Achterberg',
    note: 'Guardian rang',
  })
  const [second] = good(await mark(studentId, 'P', { expectedVersion: first?.version }))
  expect(second?.version).toBeGreaterThan(first?.version ?? 0)
})

test('two people at once: the second is shown the first one’s mark, and nothing is overwritten', async () => {
  const studentId = await idOf('Bellweather')
  const [a, b] = await Promise.all([
    mark(studentId, 'L', { minutesLate: 5 }),
    mark(studentId, 'A', {}, office),
  ])
  const [kept, lost] = a.ok ? [a, b] : [b, a]
  const failure = bad(lost)
  expect(failure.kind).toBe('conflict')
  const won = (await register()).rows.find((r) => r.studentId === studentId)?.mark
  expect(good(kept)[0]?.version).toBe(won?.version)
  expect(failure.kind === 'conflict' && failure.standing).toMatchObject([
    { key: { studentId }, value: { codeId: won?.codeId }, by: won?.changedBy },
  ])
  // The same mark made twice is no conflict.
  const same = await idOf('Castellane')
  const [once] = good(await mark(same, 'P'))
  expect(good(await mark(same, 'P'))).toEqual([once])
})

test('the rest is marked in one stroke, over no mark that is there, and can be taken back', async () => {
  const before = await register()
  const stroke = await school.execute('attendance.markRest', teacher, {
    homeroomId,
    ...at,
    codeId: codes.P ?? '',
  })
  const marked = good(stroke)
  const after = await register()
  for (const row of after.rows) {
    const was = before.rows.find((r) => r.studentId === row.studentId)?.mark?.codeId
    expect(row.mark?.codeId ?? null).toBe(was ?? (row.expected ? null : codes.P))
  }
  expect(
    good(await school.execute('attendance.markRest', teacher, { homeroomId, ...at, codeId: codes.P ?? '' })),
  ).toEqual([])
  // One is changed meanwhile: it stays when the stroke is taken back.
  const changed = marked[0]
  good(await mark(changed?.key.studentId ?? '', 'A1', { expectedVersion: changed?.version }))
  const undone = good(await school.execute('history.undo', teacher, { run: (stroke.ok && stroke.run) || '' }))
  expect(undone).toMatchObject({ left: 1 })
  expect(undone.restored).toHaveLength(marked.length - 1)
  const codeOf = (rows: typeof after.rows, id: string | undefined) =>
    rows.find((r) => r.studentId === id)?.mark?.codeId ?? null
  const last = await register()
  expect(codeOf(last.rows, changed?.key.studentId)).toBe(codes.A1)
  for (const { key } of marked.slice(1))
    expect(codeOf(last.rows, key.studentId)).toBe(codeOf(before.rows, key.studentId))
})

describe('refused, with the reason', () => {
  const cases: [string, () => Promise<string>, object, RegExp][] = [
    ['a weekend', () => idOf('Dunmore'), { date: '2026-11-21' }, /no session on Sat 21 Nov 2026/],
    ['a break', () => idOf('Dunmore'), { date: '2026-10-28' }, /no session/],
    ['a day to come', () => idOf('Dunmore'), { date: '2026-11-25' }, /is in the future/],
    [
      'minutes on a mark that is not late',
      () => idOf('Dunmore'),
      { minutesLate: 5 },
      /only be entered with a late mark/,
    ],
    ['minutes beyond reason', () => idOf('Dunmore'), { minutesLate: 700 }, /at most 600/],
    ['a note that is too long', () => idOf('Dunmore'), { note: 'x'.repeat(201) }, /at most 200 characters/],
    [
      'a code that is none',
      () => idOf('Dunmore'),
      { codeId: '00000000-0000-7000-8000-000000000001' },
      /not in use/,
    ],
    [
      'somebody not on the roll',
      async () =>
        (
          await school.row(
            "select student_id as id from homeroom_member m join homeroom h on h.id = m.homeroom_id where h.name = '9 Tern' limit 1",
          )
        ).id,
      {},
      /not on the roll/,
    ],
  ]
  test.each(cases)('%s', async (_what, student, over, message) =>
    expect(bad(await mark(await student(), 'P', over)).message).toMatch(message),
  )
})

test('Today names the register until it is complete', async () => {
  const due = async () =>
    good(await school.query('today.due', teacher, { date: '2026-11-23' })).items.map((i) => i.what)
  expect(await due()).toContain('7 Tern, morning register')
  good(await school.execute('attendance.markRest', teacher, { homeroomId, ...at, codeId: codes.P ?? '' }))
  expect(await due()).not.toContain('7 Tern, morning register')
})
