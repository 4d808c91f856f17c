import type { Role } from '@/server/platform/actor'
import { commands, queries } from '@/server/registry'
import { actors, inputFor, openWalk, own, school } from './walk'

// Every entry of the registry with the worst that each of its fields can be given: an answer in words, never a fault.
beforeAll(openWalk)
afterAll(() => school.close())

/** Lists within lists, as deep as nobody sends them. */
const deep = (levels: number): unknown => {
  let value: unknown = 1
  for (let n = 0; n < levels; n++) value = [value]
  return value
}

/** What is put in the place of a value, by what the value is. */
const worst: Readonly<Record<string, readonly unknown[]>> = {
  string: [
    '',
    '\u0000',
    '\ud800',
    '0000-01-01',
    '0001-01-01',
    '9999-12-31',
    '2026-02-30',
    '-1',
    '1e400',
    'NaN',
    "x'); drop table student; --",
    '{constructor}',
    '%00',
    'line\r\nBcc: all@elsewhere.example',
    'long '.repeat(30_000),
    '00000000-0000-0000-0000-000000000000',
  ],
  number: [-1, 0.5, 2 ** 31, 2 ** 53, -(2 ** 63), 1e308],
  boolean: ['true', 1],
  object: [deep(5000), { __proto__: null, constructor: 1 }, 'text'],
}
const anything: readonly unknown[] = [null, undefined, [], {}, true, 12, 'text', deep(40)]

/** The input with one of its values put in another's place, for each value it has, however deep. */
function* spoiled(input: unknown): Generator<unknown> {
  for (const value of [...anything, ...(worst[typeof input] ?? [])]) yield value
  if (Array.isArray(input))
    for (const [i, item] of input.entries())
      for (const bad of spoiled(item)) yield input.map((other, j) => (j === i ? bad : other))
  else if (typeof input === 'object' && input !== null)
    for (const [key, item] of Object.entries(input))
      for (const bad of spoiled(item)) yield { ...input, [key]: bad }
}

/** Whatever it is, an answer in words; "try again" only where much waits. */
const answered = new Set(['invalid', 'not found', 'refused', 'conflict', 'preview changed'])

const entries = [...queries, ...commands].map(([name, { kind }]) => ({ kind, name }))

test.each(entries)('$name', async ({ kind, name }) => {
  const faults: string[] = []
  const ask = async (role: Role, input: unknown) => {
    const result =
      kind === 'query'
        ? await school.query(name as never, actors[role], input as never)
        : await school.execute(name as never, actors[role], input as never)
    if (!result.ok && !answered.has(result.failure.kind))
      faults.push(`${role}: ${result.failure.kind} for ${JSON.stringify(input)?.slice(0, 200)}`)
  }
  for (const input of spoiled(inputFor(name, own, 'administrator', true)))
    for (const role of Object.keys(actors) as Role[]) await ask(role, input)
  expect(faults.slice(0, 10)).toEqual([])
})
