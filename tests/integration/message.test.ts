import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

/** Messages of the office to guardians. */

let school: TestSchool
let office: Actor
let students: readonly string[]
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  const rows = await school.rows<{ id: string }>(
    `select m.student_id as id from homeroom_member m join homeroom h on h.id = m.homeroom_id
     where h.name = '7 Tern' and m.period @> date '2026-11-23' order by 1`,
  )
  students = rows.map((r) => r.id)
})
afterAll(() => school.close())

const to = (studentIds: readonly string[], guardianIds: readonly string[] = []) => ({
  studentIds: [...studentIds],
  guardianIds: [...guardianIds],
})
const recipients = async (studentIds: readonly string[], guardianIds?: readonly string[]) =>
  good(await school.query('people.recipients', office, to(studentIds, guardianIds)))
const write = (studentIds: readonly string[], guardianIds?: readonly string[], key?: string) =>
  school.execute(
    'people.writeMessage',
    office,
    { ...to(studentIds, guardianIds), subject: 'No ferry', text: 'The ferry does not sail on Friday.' },
    ...(key ? [{ key }] : []),
  )
const mails = () =>
  school.rows<{ toAddress: string; subject: string; body: string }>(
    "select to_address, subject, body from mail where kind = 'people.guardianMessage' order by to_address",
  )

test('each guardian who may receive reports gets one mail, also with two children; who has no address is named', async () => {
  const expected = await school.rows<{ id: string; email: string | null }>(
    `select distinct g.id, nullif(g.email, '') as email from guardian g join guardianship r on r.guardian_id = g.id
     where r.student_id = any($1) and r.may_receive_reports`,
    [students],
  )
  const { reached, withoutAddress } = await recipients(students)
  expect(reached).toBe(expected.filter((g) => g.email).length)
  expect(withoutAddress).toHaveLength(expected.filter((g) => !g.email).length)
  expect(good(await write(students)).sent).toBe(reached)
  const sent = await mails()
  expect(sent).toHaveLength(reached)
  expect(new Set(sent.map((m) => m.toAddress)).size).toBe(reached)
  expect(sent[0]?.subject).toBe('Wrackline School: No ferry')
  expect(sent[0]?.body).toContain('The ferry does not sail on Friday.')
  expect(sent[0]?.body).toContain(office.name)
})

test('somebody who may not receive reports is not written to, nor are strangers', async () => {
  const one = await school.row<{ studentId: string; guardianId: string }>(
    'select student_id, guardian_id from guardianship where student_id = $1 limit 1',
    [students[0]],
  )
  const before = (await recipients([], [one.guardianId])).reached
  expect(before).toBe(1)
  await school.rows('update guardianship set may_receive_reports = false where guardian_id = $1', [
    one.guardianId,
  ])
  expect(await recipients([], [one.guardianId])).toEqual({ reached: 0, withoutAddress: [] })
  expect(bad(await write([], [one.guardianId]))).toMatchObject({ code: 'people.nobodyReached' })
  const strangers = '01890000-0000-7000-8000-000000000001'
  expect(await recipients([strangers], [strangers])).toEqual({ reached: 0, withoutAddress: [] })
})

test('the same message sent again after a lost answer goes out once', async () => {
  const [, , student = ''] = students
  const { reached } = await recipients([student])
  const before = (await mails()).length
  const key = '01890000-0000-7000-8000-0000000000aa'
  await Promise.all([write([student], [], key), write([student], [], key)])
  good(await write([student], [], key))
  expect((await mails()).length).toBe(before + reached)
})
