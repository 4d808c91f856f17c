import { randomUUID } from 'node:crypto'
import type { Actor } from '@/server/platform/actor'
import type { CommandInput } from '@/server/registry'
import { bad, good, openSchool, type TestSchool } from './school'

// Learning standards: sets as trees, read from files or typed; tags of questions hold on to them.

let school: TestSchool
let head: Actor

beforeAll(async () => {
  school = await openSchool()
  head = await school.actor('s.kirkness')
})
afterAll(() => school.close())

const sets = async () => good(await school.query('assessment.standardSets', head, {})).sets
const science = async () => {
  const found = (await sets()).find((s) => s.name === 'Science at Wrackline')
  if (!found) throw new Error('the demo has a framework for science')
  return found
}
const undo = async () => {
  const { id } = await school.row<{ id: string }>('select id from command_run order by at desc limit 1')
  return school.execute('history.undo', head, { run: id })
}
const one = (statement: string, more: object = {}) => ({
  id: randomUUID(),
  parentId: null,
  code: null,
  statement,
  years: [],
  source: null,
  ...more,
})

test('a set is read as a tree; the same again changes nothing; what it no longer has goes, but for what is tagged', async () => {
  const setId = randomUUID()
  const [strand, sings] = [one('Voice'), one('Sings in two parts', { code: 'MUS.7.01' })]
  const file = (version: number, standards: CommandInput<'assessment.importStandards'>['standards']) =>
    school.execute('assessment.importStandards', head, {
      setId,
      expectedVersion: version,
      name: 'Music',
      subjectId: null,
      source: 'https://music.example/1',
      standards,
    })
  const both = [strand, { ...sings, parentId: strand.id }]
  good(await file(0, both))
  const read = (await sets()).find((s) => s.id === setId)
  expect(read?.standards.map((s) => [s.depth, s.statement])).toEqual([
    [0, 'Voice'],
    [1, 'Sings in two parts'],
  ])
  const lines = async () =>
    (await school.row<{ n: number }>("select count(*)::int as n from history where table_name = 'standard'"))
      .n
  const before = await lines()
  good(await file(read?.version ?? 0, both))
  expect(await lines()).toBe(before)
  expect(bad(await file(read?.version ?? 0, both)).kind).toBe('conflict')
  expect(bad(await file(0, both)).message).toContain('already exists')
  const now = async () => (await sets()).find((s) => s.id === setId)
  await school.rows(
    `insert into question_standard (school_id, assessment_id, question_id, standard_id)
      select school_id, assessment_id, id, $1 from question limit 1`,
    [sings.id],
  )
  expect(good(await file((await now())?.version ?? 0, [one('Rhythm')])).kept).toBe(1)
  expect((await now())?.standards.map((s) => [s.depth, s.statement])).toEqual([
    [0, 'Rhythm'],
    [0, 'Sings in two parts'],
  ])
  good(await undo())
  expect((await now())?.standards.map((s) => s.depth)).toEqual([0, 1])
  await school.rows('delete from question_standard where standard_id = $1', [sings.id])
})

test('circles and strangers are refused, and nothing is kept', async () => {
  const set = await science()
  const [a, b] = [one('A'), one('B')]
  const send = (standards: CommandInput<'assessment.importStandards'>['standards']) =>
    school.execute('assessment.importStandards', head, {
      setId: randomUUID(),
      expectedVersion: 0,
      name: 'Circle',
      subjectId: null,
      source: null,
      standards,
    })
  expect(
    bad(
      await send([
        { ...a, parentId: b.id },
        { ...b, parentId: a.id },
      ]),
    ).kind,
  ).toBe('invalid')
  expect(bad(await send([{ ...a, parentId: randomUUID() }])).kind).toBe('invalid')
  expect(bad(await send([{ ...a, id: set.standards[0]?.id ?? '' }])).message).toContain('another set')
  expect((await sets()).some((s) => s.name === 'Circle')).toBe(false)
})

test('a standard is added, moved and removed; never under itself, never from under others or from questions', async () => {
  const values = { code: 'SCI.7.04', statement: 'Reads a tide table', years: ['07'] }
  const of = async () => {
    const { id: setId, version: expectedVersion } = await science()
    return { setId, expectedVersion }
  }
  const strand = (await science()).standards.find((s) => s.statement === 'Heat, water and ice')
  const { standardId } = good(
    await school.execute('assessment.addStandard', head, {
      ...(await of()),
      ...values,
      parentId: strand?.id ?? null,
    }),
  )
  const move = async (id: string | undefined, parentId: string | null) =>
    school.execute('assessment.saveStandard', head, {
      ...(await of()),
      ...values,
      standardId: id ?? '',
      parentId,
    })
  expect(bad(await move(strand?.id, standardId)).message).toContain('under itself')
  expect(bad(await move(standardId, standardId)).message).toContain('under itself')
  expect(bad(await move(standardId, randomUUID())).message).toContain('no longer exists')
  good(await move(standardId, null))
  const remove = async (id: string | undefined) =>
    school.execute('assessment.removeStandard', head, { ...(await of()), standardId: id ?? '' })
  expect(bad(await remove(strand?.id)).message).toContain('Other standards stand under this one')
  const tagged = (await science()).standards.find((s) => s.questions > 0)
  expect(bad(await remove(tagged?.id)).message).toContain('tagged')
  good(await remove(standardId))
  expect(bad(await school.execute('assessment.removeStandardSet', head, await of())).message).toContain(
    'so the set stays',
  )
})
