import type { z } from 'zod'
import type { Random } from '@/demo/random'
import type { World } from './world'

/** What cannot be drawn from its schema alone, such as the bytes of a file. */
export class Undrawable extends Error {}

/** What was drawn so far around a field, by name. */
export type Scope = Readonly<Record<string, unknown>>

interface Def {
  readonly type: string
  readonly shape?: Readonly<Record<string, z.ZodType>>
  readonly element?: z.ZodType
  readonly innerType?: z.ZodType
  readonly options?: readonly z.ZodType[]
  readonly entries?: Readonly<Record<string, string>>
  readonly values?: readonly unknown[]
  readonly left?: z.ZodType
  readonly right?: z.ZodType
  readonly in?: z.ZodType
  readonly items?: readonly z.ZodType[]
}
const defOf = (schema: z.ZodType) => (schema as unknown as { _zod: { def: Def } })._zod.def

/** Texts of all the shapes that inputs ask for; of those that a schema takes, one is drawn. */
const texts = [
  'Choir',
  'Anchor',
  'Ilse',
  'Ødegård',
  'Okonjo-Marsh',
  'A very long name that goes on and on until it does not fit',
  'A1',
  'P',
  'A',
  'L',
  'B',
  '0',
  '1',
  '7.5',
  '12',
  '20',
  '100',
  '09:30',
  '13:05',
  'morning',
  'afternoon',
  '1',
  '2',
  '3',
  'mother',
  'en',
  'somebody@islandmail.example',
  '01595 555 123',
  'The ferry did not run',
  '',
]

/**
 * Draws an input from a command's own schema. Identifiers are those of things that are there, by the name of the field;
 * dates lie at the edges of the year and around today.
 * @throws Undrawable
 */
export function draw(schema: z.ZodType, random: Random, world: World, name = '', scope: Scope = {}): unknown {
  const def = defOf(schema)
  const inner = (of: z.ZodType | undefined, as = name): unknown => {
    if (!of) throw new Undrawable(name)
    return draw(of, random, world, as, scope)
  }
  /** What may be left out is, where it cannot be drawn. */
  const innerOr = (otherwise: null | undefined): unknown => {
    try {
      return inner(def.innerType)
    } catch (error) {
      if (error instanceof Undrawable) return otherwise
      throw error
    }
  }
  switch (def.type) {
    case 'object': {
      const drawn: Record<string, unknown> = {}
      // What is drawn first narrows what follows: a student of the class, a piece of work of the class.
      const known: Record<string, unknown> = { ...scope }
      for (const [key, value] of Object.entries(def.shape ?? {}))
        drawn[key] = known[key] = draw(value, random, world, key, known)
      // As seen just now; a page that was opened long ago is the exception.
      if (drawn.expectedVersion === 0 && random.below(8) > 0)
        drawn.expectedVersion = Math.max(0, ...Object.values(drawn).map((id) => world.versionOf(id)))
      return inOrder(drawn)
    }
    case 'intersection': {
      const left = inner(def.left) as object
      if (!def.right) throw new Undrawable(name)
      return { ...left, ...(draw(def.right, random, world, name, { ...scope, ...left }) as object) }
    }
    case 'array': {
      const most = name === 'weekdays' ? 5 : 3
      const items = Array.from({ length: 1 + random.below(most) }, () => inner(def.element, singular(name)))
      return [...new Map(items.map((item) => [JSON.stringify(item), item])).values()]
    }
    case 'tuple':
      return (def.items ?? []).map((item) => inner(item))
    case 'nullable':
      return random.below(2) === 0 ? null : innerOr(null)
    case 'optional':
    case 'default':
    case 'prefault':
      return random.below(2) === 0 ? undefined : innerOr(undefined)
    case 'readonly':
    case 'nonoptional':
    case 'catch':
      return inner(def.innerType)
    case 'pipe':
      return inner(def.in)
    case 'union':
      return inner(random.pick(def.options ?? []))
    case 'enum':
      return random.pick(Object.values(def.entries ?? {}))
    case 'literal':
      return random.pick(def.values ?? [])
    case 'boolean':
      return random.below(2) === 0
    case 'null':
      return null
    case 'number':
      return name === 'expectedVersion'
        ? 0
        : fitting(schema, [0, 1, 2, 3, 4, 5, 10, 50, 80, 90, 600], random, name)
    case 'string': {
      if (name === 'id' || /Id$/.test(name)) return world.idFor(name, random, scope)
      const dates = fitting(schema, world.dates, random, name, undefined)
      if (dates !== undefined && /day|date|from|until|on$|birth/i.test(name)) return dates
      return fitting(schema, texts, random, name)
    }
    default:
      throw new Undrawable(`${name} is ${def.type}`)
  }
}

/** "studentIds" holds what "studentId" is. */
const singular = (name: string) =>
  name.endsWith('Ids') ? name.slice(0, -1) : name === 'ids' ? 'partId' : name.replace(/s$/, '')

function fitting<T>(
  schema: z.ZodType,
  candidates: readonly T[],
  random: Random,
  name: string,
  ...otherwise: readonly undefined[]
): T | undefined {
  const fits = candidates.filter((candidate) => schema.safeParse(candidate).success)
  if (fits.length > 0) return random.pick(fits)
  if (otherwise.length > 0) return undefined
  throw new Undrawable(name)
}

/** A span begins before it ends. */
function inOrder(drawn: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> {
  const { firstDay, lastDay } = drawn
  if (typeof firstDay !== 'string' || typeof lastDay !== 'string' || firstDay <= lastDay) return drawn
  return { ...drawn, firstDay: lastDay, lastDay: firstDay }
}
