import fc from 'fast-check'
import { cases } from '@tests/cases'
import type { Gradebook } from '@/core/marks/gradebook'
import { usualRules } from '@/core/marks/usual-settings'
import { circleIn, inWords, type CalculatedColumn, type Operand, type Part } from './column'
import { evaluate, evaluateAll, sourceIn, type PartValue } from './evaluate'
import { sourceOf } from './student-source'

const assignment = (id: string): Operand => ({ of: 'assignment', id })
const column = (id: string): Operand => ({ of: 'column', id })
const part = (operand: Operand, weight = '1'): Part => ({ operand, weight })
const made = (own: Partial<CalculatedColumn>): CalculatedColumn => ({
  id: 'x',
  name: 'x',
  termId: null,
  does: 'mean',
  take: null,
  parts: [],
  decimals: 1,
  levels: [],
  ...own,
})
const values = (all: Readonly<Record<string, number | undefined>>) =>
  sourceIn(
    new Map(
      Object.entries(all).map(([id, value], i): [string, PartValue] => [
        `assignment ${id}`,
        {
          value: value === undefined ? undefined : { num: BigInt(Math.round(value * 100)), den: 100n },
          on: `2026-10-0${i + 1}`,
        },
      ]),
    ),
  )
const abc = ['a', 'b', 'c'].map((id) => part(assignment(id)))

describe('a calculated column', () => {
  test.each([
    ['mean', null, { a: 80, b: 90, c: 40 }, '70.0'],
    ['mean', null, { a: 80, b: undefined, c: 40 }, '60.0'],
    ['sum', null, { a: 80, b: 90, c: 40 }, '210.0'],
    ['best', 2, { a: 80, b: 90, c: 40 }, '85.0'],
    ['best', 2, { a: undefined, b: undefined, c: 40 }, '40.0'],
    ['latest', 2, { a: 80, b: 90, c: 40 }, '65.0'],
    ['latest', 2, { a: 80, b: 90, c: undefined }, '85.0'],
    ['count', null, { a: 80, b: undefined, c: 0 }, '2.0'],
    ['count', null, {}, '0.0'],
    ['mean', null, {}, undefined],
    ['sum', null, {}, undefined],
  ] as const)('%s (%s) of %j is %s', (does, take, all, text) =>
    expect(evaluate(made({ does, take, parts: abc }), values(all)).text).toBe(text),
  )
  test('weights share the whole among the parts that have a value, and a part without weight is left out', () => {
    const parts = [part(assignment('a'), '40'), part(assignment('b'), '60'), part(assignment('c'), '0')]
    const all = { a: 50, b: 100, c: 0 }
    expect(evaluate(made({ parts }), values(all)).text).toBe('80.0')
    expect(evaluate(made({ parts }), values({ ...all, b: undefined })).text).toBe('50.0')
    expect(evaluate(made({ parts }), values(all)).steps.map((s) => s.taken)).toEqual([true, true, false])
  })
  test('a level is what the value as shown reaches', () => {
    const levels = [
      { name: 'secure', from: '80' },
      { name: 'nearly', from: '50' },
      { name: 'not yet', from: '0' },
    ]
    const level = (a: number) =>
      evaluate(made({ levels, parts: [part(assignment('a'))] }), values({ a })).level
    expect([level(79.95), level(79.94), level(50), level(3)]).toEqual([
      'secure',
      'nearly',
      'nearly',
      'not yet',
    ])
  })
  test('missing work that counts as zero is no score that was entered', () => {
    const source = sourceIn(
      new Map([
        ['assignment a', { value: { num: 0n, den: 1n }, isEntered: false }],
        ['assignment b', { value: { num: 0n, den: 1n } }],
      ]),
    )
    expect(evaluate(made({ does: 'count', decimals: 0, parts: abc }), source).text).toBe('1')
    expect(evaluate(made({ parts: abc }), source).text).toBe('0.0')
  })
  test('says which parts it took, and reads back as a sentence', () => {
    const best = made({ does: 'best', take: 2, parts: abc })
    expect(evaluate(best, values({ a: 80, b: 90, c: 40 })).steps.map((s) => [s.shown, s.taken])).toEqual([
      ['80', true],
      ['90', true],
      ['40', false],
    ])
    const nameOf = (o: Operand) => (o.of === 'marks' ? o.termId : o.id.toUpperCase())
    expect(inWords(best, nameOf)).toBe('Mean of the best 2 of A, B and C, rounded to 1 decimal.')
    const year = made({
      decimals: 0,
      parts: [
        part({ of: 'marks', termId: 'Autumn', periodId: null }, '40'),
        part({ of: 'marks', termId: 'Spring', periodId: null }, '60'),
      ],
      levels: [{ name: 'secure', from: '80' }],
    })
    expect(inWords(year, nameOf)).toBe(
      'Weighted mean of Autumn (40) and Spring (60), rounded to 0 decimals. Shown as secure from 80.',
    )
  })
  test('columns read each other, in whatever order they stand', () => {
    const columns = [
      made({ id: 'p', parts: [part(column('q')), part(assignment('a'))] }),
      made({ id: 'q', does: 'sum', parts: [part(assignment('a')), part(assignment('b'))] }),
    ]
    const all = evaluateAll(columns, values({ a: 10, b: 20 }))
    expect([all.get('q')?.text, all.get('p')?.text]).toEqual(['30.0', '20.0'])
  })
  test('a circle is named from a column back to itself, also through others', () => {
    const reads = (id: string, ...others: string[]) => ({ id, parts: others.map((o) => part(column(o))) })
    expect(circleIn([reads('a', 'b'), reads('b', 'c', 'd'), reads('c'), reads('d', 'a')])).toEqual([
      'a',
      'b',
      'd',
      'a',
    ])
    expect(circleIn([reads('a', 'a')])).toEqual(['a', 'a'])
    expect(circleIn([reads('a', 'b', 'c'), reads('b', 'c'), reads('c', 'gone')])).toBeUndefined()
    expect(() => evaluateAll([made({ id: 'a', parts: [part(column('a'))] })], values({}))).toThrow(
      'feeds itself',
    )
  })
  test('equals a slow, plain calculation, exactly', () => {
    const cell = fc.option(fc.integer({ min: 0, max: 12000 }))
    fc.assert(
      fc.property(
        fc.constantFrom('mean', 'sum', 'best', 'latest', 'count'),
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.tuple(cell, fc.integer({ min: 0, max: 500 })), { minLength: 1, maxLength: 8 }),
        (does, take, cells) => {
          const parts = cells.map(([, weight], i) => part(assignment(`a${i}`), String(weight / 100)))
          const table = new Map(
            cells.map(([cents], i): [string, PartValue] => [
              `assignment a${i}`,
              {
                value: cents === null ? undefined : { num: BigInt(cents), den: 100n },
                on: `2026-10-0${i + 1}`,
              },
            ]),
          )
          const { exact } = evaluate(made({ does, take, parts }), sourceIn(table))
          const there = cells.flatMap(([cents, weight]) => (cents === null ? [] : [{ cents, weight }]))
          const kept =
            does === 'best'
              ? [...there].sort((a, b) => b.cents - a.cents).slice(0, take)
              : does === 'latest'
                ? there.slice(-take)
                : there
          const total = (of: (x: { cents: number; weight: number }) => number) =>
            BigInt(kept.reduce((sum, x) => sum + of(x), 0))
          const expected: readonly [bigint, bigint] =
            does === 'count'
              ? [BigInt(there.length), 1n]
              : does === 'sum'
                ? [total((x) => x.cents), there.length === 0 ? 0n : 100n]
                : does === 'mean'
                  ? [total((x) => x.cents * x.weight), 100n * total((x) => x.weight)]
                  : [total((x) => x.cents), 100n * BigInt(kept.length)]
          if (expected[1] === 0n) return expect(exact).toBeUndefined()
          expect((exact?.num ?? -1n) * expected[1]).toBe(expected[0] * (exact?.den ?? 1n))
        },
      ),
      { numRuns: cases(1000) },
    )
  })
})

test('what formulas read of a student: scores with what late work lost, categories, the term and its periods', () => {
  const book: Gradebook = {
    rules: { ...usualRules, late: { percent: '10', of: 'points scored' }, bands: [] },
    categories: [{ id: 'k', name: 'k', weight: '100', within: 'points', dropLowest: 1 }],
    assignments: ['2026-09-10', '2026-10-10', '2026-11-10', '2026-11-12'].map((dueOn, i) => ({
      id: `a${i}`,
      name: `a${i}`,
      categoryId: 'k',
      maxPoints: '20',
      dueOn,
      counts: true,
      extra: false,
    })),
  }
  const source = sourceOf(
    {
      term: { id: 't', firstDay: '2026-09-01' },
      periods: [{ id: 'p', name: 'P', firstDay: '2026-10-01', lastDay: '2026-10-31' }],
      book,
      entries: new Map([
        ['a0', { kind: 'points', points: '10', late: true }],
        ['a1', { kind: 'points', points: '18' }],
        ['a2', { kind: 'missing' }],
      ]),
      dates: { on: '2026-11-23', since: '2026-09-01' },
    },
    () => ({ value: { num: 7n, den: 1n } }),
  )
  const at = (operand: Operand) => {
    const { value, points } = source(operand) ?? {}
    const number = (r: typeof value) => r && Number(r.num) / Number(r.den)
    return [number(value), number(points)]
  }
  expect(at(assignment('a0'))).toEqual([45, 9])
  // Dropped from the mark, and still a score.
  expect(at(assignment('a2'))).toEqual([0, 0])
  expect(at(assignment('a3'))).toEqual([undefined, undefined])
  expect([source(assignment('a0'))?.isEntered, source(assignment('a2'))?.isEntered]).toEqual([true, false])
  expect(source(assignment('gone'))).toBeUndefined()
  expect(at({ of: 'category', id: 'k' })).toEqual([67.5, 27])
  expect(at({ of: 'marks', termId: 't', periodId: null })).toEqual([67.5, undefined])
  expect(at({ of: 'marks', termId: 't', periodId: 'p' })).toEqual([90, undefined])
  expect(at({ of: 'marks', termId: 'other', periodId: null })).toEqual([7, undefined])
})
