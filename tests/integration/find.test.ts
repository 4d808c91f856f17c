import type { Actor } from '@/server/platform/actor'
import { good, openSchool, type TestSchool } from './school'

/** Looking for people: whatever the accents, the case and the order of words. */

let school: TestSchool
let office: Actor
let teacher: Actor
beforeAll(async () => {
  school = await openSchool()
  office = await school.actor('e.leask')
  teacher = await school.actor('r.achterberg')
  await school.rows("update student set sort_name = 'Ångström, Zoë' where sort_name = 'Pell, Anselm'")
})
afterAll(() => school.close())

const found = async (text: string, actor = office, kind = 'student') =>
  good(await school.query('find.anything', actor, { text }))
    .filter((f) => f.kind === kind)
    .map((f) => f.name)

test.each(['zoe', 'ZOË', 'angstrom zoe', 'zoe ang', 'ångs', 'Zoe\u0308'])(
  '“%s” finds a name with accents',
  async (text) => {
    expect(await found(text)).toContain('Ångström, Zoë')
  },
)

test('what only looks like a pattern is taken as it stands', async () => {
  expect(await found('%')).toEqual([])
  expect(await found('_____')).toEqual([])
  expect(await found('\\')).toEqual([])
})

test('a match at the beginning of a word comes first', async () => {
  const names = await found('ils')
  const beginning = names.map((name) => /(^|[ ,-])ils/i.test(name))
  expect(beginning).toEqual([...beginning].sort((a, b) => Number(b) - Number(a)))
  expect(names[0]).toContain('Ils')
})

test('guardians are found with their students, by those who list them', async () => {
  expect(await found('hana marsh', office, 'guardian')).toEqual(['Hana Marsh'])
  const [marsh] = good(await school.query('find.anything', office, { text: 'marsh hana' })).filter(
    (f) => f.kind === 'guardian',
  )
  expect(marsh?.detail).toBe('guardian of Okonjo-Marsh, Ilse')
  expect(await found('hana marsh', teacher, 'guardian')).toEqual([])
})

test('the list of students carries guardians for those only who list them', async () => {
  const of = async (actor: Actor) =>
    good(await school.query('people.list', actor, { date: '2026-11-23' })).find(
      (s) => s.name === 'Okonjo-Marsh, Ilse',
    )?.guardians
  expect(await of(office)).toBe('Hana Marsh; Bram Okonjo')
  expect(await of(teacher)).toBeNull()
})
