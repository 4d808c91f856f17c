import { cases } from '@tests/cases'
import fc from 'fast-check'
import type { Assignment, Category, ScoreEntries, ScoreEntry, Gradebook } from './gradebook'
import { explainMark } from './explanation'
import { gradeOf, termMark } from './term-mark'

const bands = [
  ['A', '90'],
  ['B', '80'],
  ['C', '70'],
  ['D', '60'],
  ['E', '0'],
].map(([grade = '', fromPercent = '']) => ({ grade, fromPercent }))
const rules = { decimals: 1, emptyCounts: 'nothing', missingCounts: 'zero', bands } as const
const category = (id: string, weight: string, dropLowest = 0): Category => ({
  id,
  name: id,
  weight,
  dropLowest,
})
const assignment = (id: string, categoryId: string, maxPoints: string, dueOn = '2026-10-01'): Assignment => ({
  id,
  name: id,
  categoryId,
  maxPoints,
  dueOn,
  counts: true,
})
const points = (value: string): ScoreEntry => ({ kind: 'points', points: value })

const book: Gradebook = {
  rules,
  categories: [category('tests', '60'), category('lab', '25'), category('home', '15', 1)],
  assignments: [
    assignment('currents', 'tests', '40'),
    assignment('heat', 'tests', '50'),
    assignment('salinity', 'lab', '10'),
    assignment('buoyancy', 'lab', '10'),
    assignment('w3', 'home', '10'),
    assignment('w5', 'home', '10'),
    assignment('w7', 'home', '10'),
  ],
}
const tobias: ScoreEntries = new Map([
  ['currents', points('34')],
  ['heat', points('41')],
  ['salinity', points('9')],
  ['buoyancy', points('8')],
  ['w3', points('8')],
  ['w5', points('4')],
])
const on = { on: '2026-11-23', since: '2026-09-01' }

describe('the edges of a rule', () => {
  const one = (rest: Partial<Gradebook['rules']>, dueOn: string, drop = 0): Gradebook => ({
    rules: { ...rules, ...rest },
    categories: [category('tests', '100', drop)],
    assignments: [
      assignment('first', 'tests', '10', '2026-10-01'),
      assignment('second', 'tests', '10', dueOn),
    ],
  })
  const entries: ScoreEntries = new Map([['first', points('8')]])
  test('an empty cell counts as zero after the day it is due, not on it', () => {
    const book = one({ emptyCounts: 'zero after due' }, '2026-11-23')
    expect(termMark(book, entries, { on: '2026-11-23', since: '2026-09-01' }).mark).toBe('80.0')
    expect(termMark(book, entries, { on: '2026-11-24', since: '2026-09-01' }).mark).toBe('40.0')
  })
  test('work due on the day a student joined is theirs; work due the day before is not', () => {
    const book = one({ emptyCounts: 'zero after due' }, '2026-11-02')
    expect(termMark(book, entries, { on: '2026-11-23', since: '2026-11-02' }).mark).toBe('40.0')
    expect(termMark(book, entries, { on: '2026-11-23', since: '2026-11-03' }).mark).toBe('80.0')
  })
  test('of equal shares the one that was due earlier is dropped, in whatever order they stand', () => {
    const equal: ScoreEntries = new Map([
      ['first', points('8')],
      ['second', points('8')],
    ])
    const dropped = (dueOn: string) =>
      termMark(one({}, dueOn, 1), equal, on).categories[0]?.scores.find((x) => x.treatment === 'dropped')
        ?.assignment.id
    expect(dropped('2026-10-20')).toBe('first')
    expect(dropped('2026-09-20')).toBe('second')
  })
})

describe('a term mark', () => {
  test('worked by hand: 0.60 × 83.33 + 0.25 × 85 + 0.15 × 80 = 83.25, shown as 83.3', () => {
    const result = termMark(book, tobias, on)
    expect(result.mark).toBe('83.3')
    expect(result.grade).toBe('B')
    expect(result.exact && Number(result.exact.num) / Number(result.exact.den)).toBeCloseTo(83.25, 10)
  })
  test('drops the lowest share of points, never the last one left', () => {
    const home = termMark(book, tobias, on).categories[2]
    expect(home?.scores.find((s) => s.assignment.id === 'w5')?.treatment).toBe('dropped')
    const one = termMark(book, new Map([['w3', points('2')]]), on)
    expect(one.mark).toBe('20.0')
  })
  test('compares shares, not points, when dropping: 5 of 10 goes before 6 of 20 stays only if lower', () => {
    const mixed: Gradebook = {
      rules,
      categories: [category('c', '100', 1)],
      assignments: [assignment('a', 'c', '10'), assignment('b', 'c', '20')],
    }
    expect(
      termMark(
        mixed,
        new Map([
          ['a', points('5')],
          ['b', points('6')],
        ]),
        on,
      ).mark,
    ).toBe('50.0')
  })
  test('counts missing as zero or not at all, as the rules say', () => {
    const missing = new Map([...tobias, ['heat', { kind: 'missing' } as ScoreEntry]])
    const zero = termMark(book, missing, on)
    const nothing = termMark({ ...book, rules: { ...rules, missingCounts: 'nothing' } }, missing, on)
    // 34 of 90 is 37.78: 22.67 + 21.25 + 12; without it 34 of 40 is 85: 51 + 21.25 + 12.
    expect(zero.mark).toBe('55.9')
    expect(nothing.mark).toBe('84.3')
  })
  test('a missing piece is the first to be dropped', () => {
    const result = termMark(book, new Map([...tobias, ['w7', { kind: 'missing' } as ScoreEntry]]), on)
    expect(result.categories[2]?.scores.find((s) => s.assignment.id === 'w7')?.treatment).toBe('dropped')
    expect(result.categories[2]).toMatchObject({ earned: 1200, possible: 2000 })
  })
  test('excused and empty count nothing; empty counts zero after its due date when the rules say so', () => {
    const excused = termMark(book, new Map([...tobias, ['w7', { kind: 'excused' } as ScoreEntry]]), on)
    expect(excused.mark).toBe('83.3')
    const strict = { ...book, rules: { ...rules, emptyCounts: 'zero after due' as const } }
    expect(
      termMark(strict, tobias, on).categories[2]?.scores.find((s) => s.assignment.id === 'w7')?.treatment,
    ).toBe('dropped')
    expect(termMark(strict, tobias, { ...on, on: '2026-09-30' }).mark).toBe('83.3')
  })
  test('work whose points were all set to 0 takes no place among what is dropped', () => {
    const assignments = ['zero', 'low', 'high'].map((id, i) =>
      assignment(id, 'home', id === 'zero' ? '0' : '10', `2026-09-${10 + i}`),
    )
    const entries = new Map([
      ['zero', points('0')],
      ['low', points('5')],
      ['high', points('9')],
    ])
    const dropping = { ...book, assignments }
    expect(termMark(dropping, entries, on).mark).toBe('90.0')
    expect(termMark({ ...dropping, assignments: assignments.slice(1) }, entries, on).mark).toBe('90.0')
  })
  test('empty work counts as zero once due, but not where it was due before the student joined', () => {
    const strict: Gradebook = {
      ...book,
      rules: { ...rules, emptyCounts: 'zero after due' },
      assignments: [
        assignment('a', 'tests', '10', '2026-09-10'),
        assignment('b', 'tests', '10', '2026-11-15'),
      ],
    }
    const entries = new Map([['b', points('10')]])
    expect(termMark(strict, entries, { on: '2026-11-20', since: '2026-09-01' }).mark).toBe('50.0')
    expect(termMark(strict, entries, { on: '2026-11-20', since: '2026-11-01' }).mark).toBe('100.0')
  })
  test('shares the whole among the weights in which something counts', () => {
    const onlyLab = termMark(book, new Map([['salinity', points('9')]]), on)
    expect(onlyLab.mark).toBe('90.0')
    expect(onlyLab.weightAtWork).toBe(2500)
  })
  test('has no mark while nothing counts, or only in categories without weight', () => {
    expect(termMark(book, new Map(), on)).toMatchObject({ mark: undefined, grade: undefined })
    const weightless = { ...book, categories: [category('tests', '0')] }
    expect(termMark(weightless, tobias, on).mark).toBeUndefined()
  })
  test('rounds half up at the stated decimals: 89.95 is 90.0 and so an A, 89.949… is 89.9', () => {
    const single: Gradebook = {
      rules,
      categories: [category('c', '100')],
      assignments: [assignment('a', 'c', '2000'), assignment('b', 'c', '9999.99')],
    }
    const edge = termMark(single, new Map([['a', points('1799')]]), on)
    expect([edge.mark, edge.grade]).toEqual(['90.0', 'A'])
    const below = termMark(single, new Map([['b', points('8994.99')]]), on)
    expect([below.mark, below.grade]).toEqual(['89.9', 'B'])
  })
  test('a grade begins exactly at its percentage', () => {
    expect([gradeOf('80.0', bands), gradeOf('79.9', bands), gradeOf('0.0', bands)]).toEqual(['B', 'C', 'E'])
  })
})

const anyBook = fc
  .record({
    weights: fc.array(fc.integer({ min: 0, max: 10000 }), { minLength: 1, maxLength: 4 }),
    drops: fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 4, maxLength: 4 }),
    decimals: fc.integer({ min: 0, max: 3 }),
    cells: fc.array(
      fc.record({
        category: fc.integer({ min: 0, max: 3 }),
        max: fc.integer({ min: 1, max: 5000 }),
        share: fc.integer({ min: 0, max: 100 }),
        standing: fc.constantFrom('points', 'points', 'points', 'missing', 'excused', 'empty'),
      }),
      { minLength: 1, maxLength: 12 },
    ),
  })
  .map(({ weights, drops, decimals, cells }) => {
    const categories = weights.map((w, i) => category(`c${i}`, (w / 100).toFixed(2), drops[i]))
    const assignments = cells.map((c, i) =>
      assignment(`a${i}`, `c${c.category % categories.length}`, (c.max / 100).toFixed(2)),
    )
    const entries = new Map(
      cells.flatMap((c, i): [string, ScoreEntry][] => {
        if (c.standing === 'empty') return []
        if (c.standing !== 'points') return [[`a${i}`, { kind: c.standing as 'missing' | 'excused' }]]
        return [[`a${i}`, points((Math.floor((c.max * c.share) / 100) / 100).toFixed(2))]]
      }),
    )
    return { book: { rules: { ...rules, decimals }, categories, assignments } satisfies Gradebook, entries }
  })

describe('against a slow, obvious way of working it out', () => {
  /** Fractions of whole numbers with nothing clever: every category apart, reduced only at the very end. */
  function obvious(
    { rules: r, categories, assignments }: Gradebook,
    entries: ScoreEntries,
  ): string | undefined {
    const asInt = (text: string) => BigInt(Math.round(Number(text) * 100))
    let num = 0n
    let den = 1n
    let weights = 0n
    for (const c of categories) {
      let cells = assignments
        .filter((a) => a.categoryId === c.id)
        .flatMap((a) => {
          const entry = entries.get(a.id)
          if (!entry || entry.kind === 'excused') return []
          return [{ got: entry.kind === 'points' ? asInt(entry.points) : 0n, of: asInt(a.maxPoints) }]
        })
      for (let n = 0; n < c.dropLowest && cells.length > 1; n++) {
        let lowest = 0
        cells.forEach((cell, i) => {
          const low = cells[lowest]
          if (low && cell.got * low.of < low.got * cell.of) lowest = i
        })
        cells = cells.filter((_, i) => i !== lowest)
      }
      const of = cells.reduce((sum, x) => sum + x.of, 0n)
      const got = cells.reduce((sum, x) => sum + x.got, 0n)
      const weight = asInt(c.weight)
      if (of === 0n || weight === 0n) continue
      num = num * of + weight * got * den
      den *= of
      weights += weight
    }
    if (weights === 0n) return undefined
    const scale = 10n ** BigInt(r.decimals)
    const rounded = (2n * 100n * num * scale + den * weights) / (2n * den * weights)
    const text = String(rounded).padStart(r.decimals + 1, '0')
    return r.decimals === 0 ? text : `${text.slice(0, -r.decimals)}.${text.slice(-r.decimals)}`
  }
  test('both agree on every gradebook', () => {
    fc.assert(
      fc.property(anyBook, ({ book: b, entries }) =>
        expect(termMark(b, entries, on).mark).toBe(obvious(b, entries)),
      ),
      { numRuns: cases(400) },
    )
  })
})

describe('an explanation', () => {
  test('says how the mark came about, down to the scores', () => {
    const why = explainMark(book, tobias, on)
    expect(why.categories.map((c) => c.sum)).toEqual([
      '75 of 90 points = 83.33',
      '17 of 20 points = 85.00',
      '8 of 10 points = 80.00',
    ])
    expect(why.contributions.map((c) => [c.formula, c.value])).toEqual([
      ['0.60 × 83.33', '50.00'],
      ['0.25 × 85.00', '21.25'],
      ['0.15 × 80.00', '12.00'],
    ])
    expect([why.total, why.mark, why.band]).toEqual(['83.25', '83.3', 'B is 80 to under 90.'])
  })
  test('names what would lift the mark most', () => {
    const why = explainMark(
      book,
      new Map([
        ...tobias,
        ['heat', { kind: 'missing' } as ScoreEntry],
        ['w7', { kind: 'missing' } as ScoreEntry],
      ]),
      on,
    )
    expect(why.whatIf).toMatchObject({ name: 'heat', points: '50' })
  })
  test('says when weights do not make 100, and when a category is still empty', () => {
    expect(explainMark({ ...book, categories: [category('tests', '50')] }, tobias, on).weights).toBe(
      'The weights add up to 50, not 100, so each weight counts as a share of 50.',
    )
    expect(explainMark(book, new Map([['currents', points('30')]]), on).weights).toBe(
      'No scores count yet in lab and home, so each weight counts as a share of 60.',
    )
  })
  test('the parts as shown always add up to the total as shown, and the total rounds to the mark', () => {
    fc.assert(
      fc.property(anyBook, ({ book: b, entries }) => {
        const why = explainMark(b, entries, on)
        if (why.total === undefined || why.mark === undefined) return
        const decimals = why.total.split('.')[1]?.length ?? 0
        const asUnits = (text: string) => BigInt(text.replace('.', '').padEnd(text.includes('.') ? 0 : 1, ''))
        const sum = why.contributions.reduce((total, c) => total + asUnits(c.value), 0n)
        expect(sum).toBe(asUnits(why.total))
        const scale = 10n ** BigInt(decimals - b.rules.decimals)
        expect((2n * asUnits(why.total) + scale) / (2n * scale)).toBe(asUnits(why.mark))
      }),
      { numRuns: cases(400) },
    )
  })
  test('takes more decimals where two would mislead: 83.2499 is 83.2', () => {
    const one: Gradebook = {
      rules,
      categories: [category('c', '100')],
      assignments: [assignment('a', 'c', '10000')],
    }
    const why = explainMark(one, new Map([['a', points('8324.99')]]), on)
    expect([why.mark, why.total]).toEqual(['83.2', '83.2499'])
  })
})
