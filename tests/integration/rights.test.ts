import type { Actor, Role } from '@/server/platform/actor'
import { commands, queries } from '@/server/registry'
import { allEntries } from '../domains/all'
import { actors, foreign, inputFor, openWalk, own, school, stranger } from './walk'

/** Who may do what. Every entry of the registry stands in the file of its domain; a new one without fails below. */
const known = await allEntries()

beforeAll(openWalk)
afterAll(() => school.close())

const entries = [...queries, ...commands].map(([name, { kind }]) => ({ kind, name }))

/** The answer "not there" is how a right is refused; any other answer means the right was there. */
async function isRefused(
  entry: { kind: string; name: string },
  actor: Actor,
  input: object,
): Promise<boolean> {
  const result =
    entry.kind === 'query'
      ? await school.query(entry.name as never, actor, input as never)
      : await school.execute(entry.name as never, actor, input as never)
  if (
    !result.ok &&
    result.failure.kind === 'invalid' &&
    result.failure.fields.some((f) => /Invalid input|expected/.test(f.message))
  )
    throw new Error(`the test's input for ${entry.name} is wrong: ${result.failure.message}`)
  return !result.ok && result.failure.kind === 'not found'
}

test('every entry of the registry stands in its domain’s file, and nothing else does', async () => {
  expect(entries.map((entry) => entry.name).sort()).toEqual([...known.keys()].sort())
})

describe('every role may exactly what is written there, with own and foreign objects:', () => {
  test.each(entries)('$name', async (entry) => {
    const wrong: string[] = []
    for (const role of Object.keys(actors) as Role[]) {
      const may = known.get(entry.name)?.who[role] ?? 'none'
      for (const isOwn of [true, false]) {
        const expected = may === 'all' || (may === 'own' && isOwn)
        const input = inputFor(entry.name, isOwn ? own : foreign, role, isOwn)
        const allowed = !(await isRefused(entry, actors[role], input))
        if (allowed !== expected)
          wrong.push(
            `${role} ${allowed ? 'may' : 'may not'} ${entry.name} with ${isOwn ? 'own' : 'foreign'} objects`,
          )
      }
    }
    expect(wrong).toEqual([])
  })
})

describe('nobody reaches an object of another school by its id:', () => {
  test.each(entries.filter((entry) => !known.get(entry.name)?.aboutOneself))('$name', async (entry) => {
    expect(await isRefused(entry, stranger, inputFor(entry.name, own, 'administrator', true))).toBe(true)
  })
})

test('lists of another school are empty', async () => {
  const people = await school.query('people.list', stranger, { date: '2026-11-23' })
  expect(people).toEqual({ ok: true, value: [] })
  const found = await school.query('find.anything', stranger, { text: 'ilse' })
  expect(found).toEqual({ ok: true, value: [] })
})

test('a guardian sees the own child’s released cards and no document of anybody else', async () => {
  const rows = await school.rows('select id from document')
  for (const { id } of rows)
    expect((await school.query('files.describe', actors.guardian, { documentId: id })).ok).toBe(false)
})
