import type { Actor } from '@/server/platform/actor'
import { good, openSchool, type TestSchool } from './school'

// What always holds is looked at, and what does not is told.
let school: TestSchool
let admin: Actor
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  admin = await school.actor('m.vester')
})
afterAll(() => school.close({ meddled: true }))

const look = async () => {
  good(await school.execute('check.now', admin, {}))
  const last = good(await school.query('check.last', admin, {}))
  return (last?.found ?? []).filter(({ which }) => which.length > 0)
}
const due = async (actor = admin) =>
  good(await school.query('today.due', actor, { date })).items.find((i) => i.href === '/school/check')

test('before the first check nothing is told; then all rules hold', async () => {
  expect(good(await school.query('check.last', admin, {}))).toBeNull()
  expect(await due()).toBeUndefined()
  expect(await look()).toEqual([])
  expect(good(await school.query('check.last', admin, {}))?.found.length).toBeGreaterThan(14)
  expect(await due()).toBeUndefined()
})

test('whatever breaks a rule is named, and due for administrators alone, until it is mended', async () => {
  await school.rows(
    "update homeroom set last_day = '2026-10-30' where name = '7 Tern' and year_id = (select id from academic_year where first_day = '2026-09-01')",
  )
  const [broken] = await look()
  expect(broken).toMatchObject({ rule: 'Nobody is in a homeroom after its last day' })
  expect(broken?.which.length).toBe(20)
  expect(broken?.which[0]).toMatch(/^7 Tern, /)
  expect(await due()).toMatchObject({ what: 'Data that breaks a rule', count: 1, detail: broken?.rule })
  expect(await due(await school.actor('e.leask'))).toBeUndefined()
  await school.rows("update homeroom set last_day = null where name = '7 Tern'")
  expect(await look()).toEqual([])
  expect(await due()).toBeUndefined()
})

test('a record that was changed past its history is found', async () => {
  const { id } = await school.row(
    "select id from student where sort_name = 'Okonjo-Marsh, Ilse' and number is not null",
  )
  good(
    await school.execute('people.setStudent', admin, {
      studentId: id,
      cells: [{ key: { field: 'address' }, value: 'Hut 4, Norwick', expectedVersion: await versionOf(id) }],
    }),
  )
  expect(await look()).toEqual([])
  await school.rows("update student set address = 'Nowhere' where id = $1", [id])
  const [broken] = await look()
  expect(broken?.rule).toContain('as its history has kept it')
  expect(broken?.which).toEqual([`student {"id": "${id}"}`])
})

async function versionOf(id: unknown): Promise<number> {
  const { version } = await school.row(
    "select coalesce((field_versions ->> 'address')::int, 0) as version from student where id = $1",
    [id],
  )
  return Number(version)
}

test('somebody who is expected can be marked before they are enrolled', async () => {
  const expected = await school.row(
    'select id, expected_in as homeroom_id from student where expected_in is not null and number is null limit 1',
  )
  const register = good(
    await school.query('attendance.register', admin, {
      homeroomId: expected.homeroomId,
      date,
      session: 'morning',
    }),
  )
  good(
    await school.execute('attendance.setMarks', admin, {
      homeroomId: expected.homeroomId,
      date,
      session: 'morning',
      cells: [
        {
          key: { studentId: expected.id },
          value: { codeId: register.codes[0]?.id ?? null, minutesLate: null, note: null },
          expectedVersion: register.rows.find((r) => r.studentId === expected.id)?.mark?.version ?? 0,
        },
      ],
    }),
  )
  expect((await look()).map(({ rule }) => rule)).not.toContain(
    'Every mark belongs to somebody who was on the roll, or is expected',
  )
})

test('the clock checks every night', async () => {
  const { recurring } = await import('@/server/registry')
  const { database } = await import('@/server/platform/database')
  const { inSchool } = await import('@/server/platform/in-school')
  await school.rows('delete from data_check')
  await database()
    .transaction()
    .execute((db) =>
      inSchool(db, admin, { command: 'check.nightly' }, async (context) => {
        await recurring.get('check.nightly')?.run(context, date)
      }),
    )
  expect(good(await school.query('check.last', admin, {}))).not.toBeNull()
})
