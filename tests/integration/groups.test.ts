import type { Actor } from '@/server/platform/actor'
import { bad, good, openSchool, type TestSchool } from './school'

let school: TestSchool
let office: Actor
let records: Actor
let teacher: Actor
const date = '2026-11-23'
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  records = await school.actor('p.ilves')
  teacher = await school.actor('r.achterberg')
})
afterAll(() => school.close())

const groups = async (on = date) => good(await school.query('people.groups', office, { date: on })).groups
/** The groups this test has made, among those of the demo. */
const made = async () =>
  (await groups())
    .map((g) => g.name)
    .filter((name) => ['Early reading', 'Readers', 'Reading', 'Rowing'].includes(name))
const groupOf = async (name: string) => {
  const found = (await groups()).find((g) => g.name === name)
  if (!found) throw new Error(`no group ${name}`)
  return found
}
const ilse = async (actor = office) => {
  const { id } = await school.row("select id from student where sort_name = 'Okonjo-Marsh, Ilse'")
  return good(await school.query('people.student', actor, { studentId: id }))
}
const place = async (over: object, actor = office) => {
  const { id: studentId, rollVersion: expectedVersion } = await ilse()
  return school.execute('people.place', actor, {
    students: [{ studentId, expectedVersion }],
    from: date,
    ...over,
  })
}
const groupsOf = async (actor = office) =>
  (await ilse(actor)).places.filter((p) => p.kind === 'group').map((p) => [p.name, p.from, p.until])

test('a student joins a group from a day on and leaves it; both are undone, and leaving the school ends it', async () => {
  good(await school.execute('people.addGroups', office, { names: ['Rowing', 'Early reading'] }))
  const choir = await groupOf('Rowing')
  const joined = await place({ joinGroups: [choir.id], from: '2026-11-16' })
  good(joined)
  expect(await groupsOf()).toEqual([['Rowing', '2026-11-16', null]])
  expect((await groups('2026-11-15')).find((g) => g.name === 'Rowing')?.students).toBe(0)
  expect((await groupOf('Rowing')).students).toBe(1)
  const left = await place({ leaveGroups: [choir.id], from: '2026-11-23' })
  good(left)
  expect(await groupsOf()).toEqual([['Rowing', '2026-11-16', '2026-11-23']])
  good(await school.execute('history.undo', office, { run: left.ok ? (left.run ?? '') : '' }))
  const { id: studentId, rollVersion: expectedVersion } = await ilse()
  const gone = await school.execute('people.leave', office, {
    students: [{ studentId, expectedVersion }],
    lastDay: '2026-11-27',
    reason: 'Moved to Little Skarn',
    destination: '',
  })
  good(gone)
  expect(await groupsOf()).toEqual([['Rowing', '2026-11-16', '2026-11-28']])
  good(await school.execute('history.undo', office, { run: gone.ok ? (gone.run ?? '') : '' }))
  expect(await groupsOf()).toEqual([['Rowing', '2026-11-16', null]])
})

test('who is in which group is for administrators, heads and the office', async () => {
  const listed = async (actor: Actor) =>
    good(await school.query('people.list', actor, { date })).find((s) => s.name === 'Okonjo-Marsh, Ilse')
      ?.groups
  expect(await listed(office)).toEqual(['Rowing'])
  expect(await listed(teacher)).toEqual([])
  expect(await listed(records)).toEqual([])
  expect(await groupsOf(teacher)).toEqual([])
  const choir = await groupOf('Rowing')
  expect(bad(await place({ leaveGroups: [choir.id] }, records)).kind).toBe('not found')
  expect(bad(await place({ joinGroups: [crypto.randomUUID()] })).kind).toBe('not found')
  expect(await groupsOf()).toEqual([['Rowing', '2026-11-16', null]])
})

test('names are unique however they are written; two who rename at once do not overwrite each other', async () => {
  expect(bad(await school.execute('people.addGroups', office, { names: ['rowing'] }))).toMatchObject({
    fields: [{ path: 'names' }],
  })
  expect(bad(await school.execute('people.addGroups', office, { names: ['Band', 'BAND'] })).kind).toBe(
    'invalid',
  )
  expect(bad(await school.execute('people.addGroups', office, { names: ['x'.repeat(300)] })).kind).toBe(
    'invalid',
  )
  const { id: groupId, version: expectedVersion } = await groupOf('Early reading')
  good(await school.execute('people.saveGroup', office, { groupId, expectedVersion, name: 'Reading' }))
  expect(
    bad(await school.execute('people.saveGroup', office, { groupId, expectedVersion, name: 'Readers' })).kind,
  ).toBe('conflict')
  expect(await made()).toEqual(['Reading', 'Rowing'])
})

test('a group with a history stays; one without is removed and comes back by undo', async () => {
  const remove = async (name: string) => {
    const { id: groupId, version: expectedVersion } = await groupOf(name)
    return school.execute('people.removeGroup', office, { groupId, expectedVersion })
  }
  expect(bad(await remove('Rowing'))).toMatchObject({ code: 'people.groupHasHistory' })
  const removed = await remove('Reading')
  good(removed)
  expect(await made()).toEqual(['Rowing'])
  good(await school.execute('history.undo', office, { run: removed.ok ? (removed.run ?? '') : '' }))
  expect(await made()).toEqual(['Reading', 'Rowing'])
})

test('guardians are listed once with all their students', async () => {
  const list = good(await school.query('people.guardians', office, { date }))
  expect(new Set(list.map((g) => g.id)).size).toBe(list.length)
  expect(list.find((g) => g.name === 'Marsh, Hana')?.students.map((s) => s.name)).toEqual([
    'Okonjo-Marsh, Ilse',
  ])
  expect(list.some((g) => g.students.length > 1)).toBe(true)
  expect(good(await school.query('people.guardians', office, { date: '2030-01-01' }))).toHaveLength(
    list.length,
  )
})
