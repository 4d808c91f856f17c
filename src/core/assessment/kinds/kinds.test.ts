import fc from 'fast-check'
import { schemasOf } from '@/core/assessment/inputs'
import { keyPoints } from '@/core/assessment/scoring'
import { kindOf, kinds, newQuestion, type ContentOf, type Keyed, type KindName } from '.'
import { choiceLetters } from './choices'
import { plainAnswer } from './short-text'
import { readNumber } from './read-number'

const asked = (keyed: Keyed, points = '1') => ({ ...keyed, points })
const points = (keyed: Keyed, value: unknown, most = '1') => keyPoints(asked(keyed, most), value)

describe('numbers as people write them', () => {
  test.each([
    ['3.5', '7/2'],
    ['3,5', '7/2'],
    [' 3.5 m', '7/2'],
    ['1e9', '1000000000/1'],
    ['2 x 10^3', '2000/1'],
    ['½', '1/2'],
    ['3½', '7/2'],
    ['1 1/2', '3/2'],
    ['-4', '-4/1'],
    ['−4', '-4/1'],
    ['1 000', '1000/1'],
    ['1,000,000', '1000000/1'],
    ['1.234,5', '12345/10'],
    ['.5', '5/10'],
    ['1e-2', '1/100'],
  ])('%s is %s', (text, expected) => {
    const { num, den } = readNumber(text)?.readings[0] ?? { num: 0n, den: 1n }
    const [n = '', d = ''] = expected.split('/')
    expect(num * BigInt(d)).toBe(BigInt(n) * den)
  })
  test.each(['', 'about 3', '1/0', '1e99', '3..5', '1,2,3', 'x', '½½½x', '1e', '--3'])(
    '%s is none',
    (text) => {
      const read = readNumber(text)
      expect(read === undefined || read.unit !== '').toBe(true)
    },
  )
  test('a comma before three digits can part thousands or decimals: both count', () => {
    expect(readNumber('1,000')?.readings).toEqual([
      { num: 1000n, den: 1000n },
      { num: 1000n, den: 1n },
    ])
  })
  test('what is read is what was written, of any decimal', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -999999, max: 999999 }),
        fc.integer({ min: 0, max: 99 }),
        (whole, part) => {
          const text = `${whole}.${String(part).padStart(2, '0')}`
          const [{ num, den } = { num: 0n, den: 1n }] = readNumber(text)?.readings ?? []
          expect(Number(num) / Number(den)).toBeCloseTo(Number(text), 9)
        },
      ),
    )
  })
  test('ten thousand texts of any characters end in a number or in none', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(..."0123456789.,-+/e ½¾m×^10'"), maxLength: 24 }),
        (text) => {
          readNumber(text)
        },
      ),
      { numRuns: 10_000 },
    )
  })
})

describe('what answers earn', () => {
  const metres: Keyed = {
    kind: 'number',
    content: { right: '3.5', tolerance: '0.1', toleranceIn: 'units', unit: 'm' },
  }
  test.each([
    ['3.5', 100],
    ['3,6', 100],
    ['3.4 m', 100],
    ['3.61', 0],
    ['3.5 cm', 0],
    ['three', 0],
  ])('%s m at 3.5 ± 0.1', (value, expected) => expect(points(metres, value)).toBe(expected))
  test('a tolerance in percent is of the right number, also of a negative one', () => {
    const cold: Keyed = {
      kind: 'number',
      content: { right: '-20', tolerance: '5', toleranceIn: 'percent', unit: null },
    }
    expect([-19, -21, -18.9, 19].map((n) => points(cold, String(n)))).toEqual([100, 100, 0, 0])
  })
  test('several choices: all or nothing, or each right one less each wrong one, never below none', () => {
    const content = { choices: ['A', 'B', 'C', 'D', 'E'], right: ['A', 'C', 'D'] }
    const all: Keyed = { kind: 'several choices', content: { ...content, rule: 'all or nothing' } }
    const each: Keyed = {
      kind: 'several choices',
      content: { ...content, rule: 'each right less each wrong' },
    }
    expect(
      [
        ['A', 'C', 'D'],
        ['A', 'C'],
        ['A', 'B', 'C', 'D'],
      ].map((v) => points(all, v)),
    ).toEqual([100, 0, 0])
    // Two of three of 1 point, rounded half up to hundredths; one less; two wrong ones more than right ones.
    expect(
      [
        ['A', 'C', 'D'],
        ['A', 'C'],
        ['A', 'B', 'C'],
        ['B', 'E'],
      ].map((v) => points(each, v)),
    ).toEqual([100, 67, 33, 0])
    expect(points(each, ['A', 'C'], '0.05')).toBe(3)
  })
  test('a short text is compared without what makes no difference', () => {
    const lax = { case: false, accents: false, spaces: false }
    const word = (matters: ContentOf<'short text'>['matters']): Keyed => ({
      kind: 'short text',
      content: { accepted: ['Salt water', 'brine'], matters },
    })
    expect(
      ['salt water', 'SALTWATER', ' Sált  water ', 'Brine', 'sea'].map((v) => points(word(lax), v)),
    ).toEqual([100, 100, 100, 100, 0])
    const strict = { case: true, accents: true, spaces: true }
    expect(
      ['Salt water', 'salt water', 'Saltwater', 'Sált water'].map((v) => points(word(strict), v)),
    ).toEqual([100, 0, 0, 0])
    expect(plainAnswer('it’s', lax)).toBe("it's")
  })
  test('without a key, or where a marker decides, nothing is earned or lost yet', () => {
    for (const { name } of kinds) {
      const sample = { 'several choices': ['A'], 'true or false': true }[name as string] ?? 'A'
      expect(points(newQuestion(name, 4), sample)).toBeUndefined()
    }
  })
})

/** Of the few numbers drawn below; what has a unit or is none is never right here. */
const plainNumber = (text: string) => (text === '1/2' ? 0.5 : Number(text))

// A slow and plain scorer, written from the rules alone.
function plainScore({ kind, content, points: most }: Keyed & { readonly points: string }, value: unknown) {
  const full = Math.round(Number(most) * 100)
  const part = (num: number, den: number) => Math.floor((full * num) / den + 0.5)
  switch (kind) {
    case 'one choice':
    case 'true or false':
      return content.right === null ? undefined : value === content.right ? full : 0
    case 'several choices': {
      const chosen = new Set(value as string[])
      const right = new Set(content.right)
      if (right.size === 0) return undefined
      const hits = [...chosen].filter((c) => right.has(c)).length
      if (content.rule === 'all or nothing')
        return hits === right.size && chosen.size === right.size ? full : 0
      return part(Math.max(0, hits - (chosen.size - hits)), right.size)
    }
    case 'number':
      return content.right === null
        ? undefined
        : Math.abs(plainNumber(String(value)) - Number(content.right)) <= Number(content.tolerance)
          ? full
          : 0
    case 'short text':
      return content.accepted.length === 0
        ? undefined
        : content.accepted.some((one) => one.trim().toLowerCase() === String(value).trim().toLowerCase())
          ? full
          : 0
    case 'written':
      return undefined
  }
}

const letters = fc.integer({ min: 2, max: 10 }).map((n) => [...choiceLetters.slice(0, n)])
const cases: { readonly [N in KindName]: fc.Arbitrary<{ keyed: Keyed; value: unknown }> } = {
  'one choice': letters.chain((choices) =>
    fc
      .record({ right: fc.option(fc.constantFrom(...choices)), value: fc.constantFrom(...choices) })
      .map(({ right, value }) => ({
        keyed: { kind: 'one choice' as const, content: { choices, right } },
        value,
      })),
  ),
  'several choices': letters.chain((choices) =>
    fc
      .record({
        right: fc.subarray(choices),
        value: fc.subarray(choices, { minLength: 1 }),
        rule: fc.constantFrom('all or nothing' as const, 'each right less each wrong' as const),
      })
      .map(({ right, value, rule }) => ({
        keyed: { kind: 'several choices' as const, content: { choices, right, rule } },
        value,
      })),
  ),
  'true or false': fc
    .record({ right: fc.option(fc.boolean()), value: fc.boolean() })
    .map(({ right, value }) => ({ keyed: { kind: 'true or false' as const, content: { right } }, value })),
  number: fc
    .record({
      right: fc.option(fc.integer({ min: -50, max: 50 })),
      value: fc.oneof(
        fc.integer({ min: -50, max: 50 }).map(String),
        fc.constantFrom('7 m', 'about 3', '1/2', '1e2'),
      ),
      tolerance: fc.integer({ min: 0, max: 5 }),
    })
    .map(({ right, value, tolerance }) => ({
      keyed: {
        kind: 'number' as const,
        content: {
          right: right === null ? null : String(right),
          tolerance: String(tolerance),
          toleranceIn: 'units' as const,
          unit: null,
        },
      },
      value,
    })),
  'short text': fc
    .record({
      accepted: fc.array(fc.constantFrom('ice', 'salt', 'tide'), { maxLength: 2 }),
      value: fc.constantFrom('ICE', 'salt ', 'Tide', 'sea'),
    })
    .map(({ accepted, value }) => ({
      keyed: {
        kind: 'short text' as const,
        content: { accepted, matters: { case: false, accents: true, spaces: true } },
      },
      value,
    })),
  written: fc
    .string({ maxLength: 20 })
    .map((value) => ({ keyed: { kind: 'written' as const, content: {} }, value })),
}

describe.each(kinds.map((kind) => kind.name))('%s', (name) => {
  const amount = fc.integer({ min: 0, max: 1200 }).map((n) => String(n / 100))
  test('scores as a slow and plain scorer does', () => {
    fc.assert(
      fc.property(cases[name], amount, ({ keyed, value }, most) => {
        expect(keyPoints(asked(keyed, most), value)).toBe(plainScore(asked(keyed, most), value))
      }),
      { numRuns: 500 },
    )
  })
  test('what is written of an answer or of a key is read again as the same', () => {
    fc.assert(
      fc.property(cases[name], ({ keyed, value }) => {
        const kind = kindOf(name)
        expect(schemasOf(name).content.safeParse(keyed.content).success).toBe(true)
        if (!kind.byHand) {
          const text = kind.show(value)
          kind.token.lastIndex = 0
          expect(kind.token.exec(text)?.[0]).toBe(text)
          const read = kind.read(text, keyed.content)
          expect('value' in read && keyPoints(asked(keyed), read.value)).toBe(keyPoints(asked(keyed), value))
        }
        if (kind.isKeyed(keyed.content) && kind.readKey)
          expect(kind.readKey(kind.showKey(keyed.content), kind.unkeyed(keyed.content))).toEqual({
            value: keyed.content,
          })
        expect(kind.isKeyed(kind.unkeyed(keyed.content))).toBe(kind.byHand)
      }),
    )
  })
  test('every answer is in a group, with what it earns', () => {
    fc.assert(
      fc.property(fc.array(cases[name], { minLength: 1, maxLength: 12 }), (drawn) => {
        const keyed = drawn[0]?.keyed ?? newQuestion(name, 4)
        const kind = kindOf(name)
        const fitting = drawn.filter(({ value }) => kind.misfit(keyed.content, value) === undefined)
        const responses = fitting.map(({ value }, i) => ({ studentId: `s${i}`, value }))
        const groups = kind.tally(keyed.content, responses)
        expect(new Set(groups.flatMap((g) => g.students)).size).toBe(responses.length)
      }),
    )
  })
})

test('a kind that does not exist is none', () => expect(() => kindOf('drawing')).toThrow(RangeError))
