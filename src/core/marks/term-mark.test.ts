import { cases } from '@tests/cases'
import fc from 'fast-check'
import type { Assignment, Category, ScoreEntries, ScoreEntry, Gradebook } from './gradebook'
import { explainMark } from './explanation'
import { gradeOf, termMark } from './term-mark'
import { usualRules } from './usual-settings'

const bands = [
  ['A', '90'],
  ['B', '80'],
  ['C', '70'],
  ['D', '60'],
  ['E', '0'],
].map(([grade = '', fromPercent = '']) => ({ grade, fromPercent }))
const rules: Gradebook['rules'] = { ...usualRules, bands }
const category = (id: string, weight: string, dropLowest = 0): Category => ({
  id,
  name: id,
  weight,
  within: 'points',
  dropLowest,
})
const assignment = (id: string, categoryId: string, maxPoints: string, dueOn = '2026-10-01'): Assignment => ({
  id,
  name: id,
  categoryId,
  maxPoints,
  dueOn,
  counts: true,
  extra: false,
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

const cents = (n: number) => (n / 100).toFixed(2)
const anyBook = fc
  .record({
    method: fc.constantFrom('weights', 'weights', 'points'),
    weights: fc.array(fc.integer({ min: 0, max: 10000 }), { minLength: 1, maxLength: 4 }),
    withins: fc.array(fc.constantFrom('points', 'pieces'), { minLength: 4, maxLength: 4 }),
    drops: fc.array(fc.integer({ min: 0, max: 2 }), { minLength: 4, maxLength: 4 }),
    decimals: fc.integer({ min: 0, max: 3 }),
    incompleteCounts: fc.constantFrom('nothing', 'zero'),
    late: fc.option(
      fc.record({
        percent: fc.integer({ min: 1, max: 10000 }).map(cents),
        of: fc.constantFrom('points scored', 'points possible'),
      }),
    ),
    most: fc.option(fc.integer({ min: 5000, max: 15000 }).map(cents)),
    cells: fc.array(
      fc.record({
        category: fc.integer({ min: 0, max: 3 }),
        max: fc.oneof(fc.constantFrom(1000, 2000), fc.integer({ min: 1, max: 9_999_999 })),
        share: fc.integer({ min: 0, max: 100 }),
        extra: fc.constantFrom(false, false, false, true),
        standing: fc.constantFrom(
          ...['points', 'points', 'points', 'late', 'missing', 'incomplete', 'excused', 'empty'],
        ),
      }),
      { minLength: 1, maxLength: 12 },
    ),
  })
  .map(({ weights, withins, drops, cells, ...own }) => {
    const categories = weights.map((w, i): Category => ({
      ...category(`c${i}`, cents(w), drops[i]),
      within: withins[i] === 'pieces' ? 'pieces' : 'points',
    }))
    const assignments = cells.map((c, i) => ({
      ...assignment(`a${i}`, `c${c.category % categories.length}`, cents(c.max)),
      extra: c.extra,
    }))
    const entries = new Map(
      cells.flatMap((c, i): [string, ScoreEntry][] => {
        if (c.standing === 'empty') return []
        const typed = cents(Math.floor((c.max * c.share) / 100))
        if (c.standing === 'late') return [[`a${i}`, { kind: 'points', points: typed, late: true }]]
        if (c.standing === 'points') return [[`a${i}`, points(typed)]]
        return [[`a${i}`, { kind: c.standing as 'missing' | 'excused' | 'incomplete' }]]
      }),
    )
    const all = { ...rules, ...own } as Gradebook['rules']
    return { book: { rules: all, categories, assignments } satisfies Gradebook, entries }
  })

/** Reduced fractions with nothing clever: one after another, as one would on paper. */
type Fraction = readonly [num: bigint, den: bigint]
const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b))
const fraction = (num: bigint, den: bigint): Fraction => {
  const g = gcd(num < 0n ? -num : num, den)
  return [num / g, den / g]
}
const add = (a: Fraction, b: Fraction) => fraction(a[0] * b[1] + b[0] * a[1], a[1] * b[1])
const less = (a: Fraction, b: Fraction) => a[0] * b[1] < b[0] * a[1]
const times = (a: Fraction, b: Fraction) => fraction(a[0] * b[0], a[1] * b[1])
const over = (a: Fraction, b: Fraction) => fraction(a[0] * b[1], a[1] * b[0])
const decimalOf = (text: string) => fraction(BigInt(text.replace('.', '')), text.includes('.') ? 100n : 1n)
const none: Fraction = [0n, 1n]
const sumOf = (all: readonly Fraction[]) => all.reduce(add, none)

describe('what schools really do', () => {
  const one = (rest: Partial<Gradebook['rules']>, more: Partial<Category> = {}): Gradebook => ({
    rules: { ...rules, ...rest },
    categories: [{ ...category('tests', '60'), ...more }, category('lab', '40')],
    assignments: [
      assignment('a', 'tests', '10'),
      assignment('b', 'tests', '40'),
      assignment('c', 'lab', '10'),
    ],
  })
  const all: ScoreEntries = new Map([
    ['a', points('10')],
    ['b', points('20')],
    ['c', points('8')],
  ])
  const late = (value: string): ScoreEntry => ({ kind: 'points', points: value, late: true })
  test('all points are one pool: 38 of 60 is 63.3, whatever the weights', () => {
    const book = one({ method: 'points' })
    expect(termMark(book, all, on).mark).toBe('63.3')
    const why = explainMark(book, all, on)
    expect(why.contributions.map((c) => c.formula)).toEqual(['30 of 60 points', '8 of 60 points'])
    expect([why.categories[0]?.weight, why.weights]).toEqual([undefined, undefined])
  })
  test('each piece counts alike: 100 and 50 are 75; 0.6 × 75 and 0.4 × 80 are 77', () => {
    const book = one({}, { within: 'pieces' })
    expect(termMark(book, all, on).mark).toBe('77.0')
    expect(explainMark(book, all, on).categories[0]?.sum).toBe('Mean of 2 pieces = 75.00')
    expect(termMark(one({}), all, on).mark).toBe('68.0')
  })
  test('late work loses a part of its points or of its maximum, never more than it has', () => {
    const scored = one({ late: { percent: '10', of: 'points scored' } })
    const possible = one({ late: { percent: '25', of: 'points possible' } })
    const entries = new Map([...all, ['c', late('2')] as const])
    // 2 less a tenth is 1.8 of 10; 2 less a quarter of 10 is nothing.
    expect(termMark(scored, entries, on).mark).toBe('43.2')
    expect(termMark(possible, entries, on).mark).toBe('36.0')
    expect(explainMark(scored, entries, on).categories[1]).toMatchObject({
      sum: '1.8 of 10 points = 18.00',
      scores: [{ scored: '2/10', percent: '18.0', lost: '0.2' }],
    })
    expect(termMark(one({}), entries, on).mark).toBe('44.0')
    expect(explainMark(one({}), entries, on).categories[1]?.scores[0]?.lost).toBe('0')
  })
  test('incomplete work waits, or counts as zero', () => {
    const entries: ScoreEntries = new Map([...all, ['c', { kind: 'incomplete' }]])
    expect(termMark(one({}), entries, on).mark).toBe('60.0')
    expect(termMark(one({ incompleteCounts: 'zero' }), entries, on).mark).toBe('36.0')
  })
  test('extra credit comes on top, costs nobody anything, and stops at the highest mark', () => {
    const book = one({})
    const withExtra = {
      ...book,
      assignments: [...book.assignments, { ...assignment('x', 'lab', '5'), extra: true }],
    }
    expect(termMark(withExtra, all, on).mark).toBe('68.0')
    expect(termMark(withExtra, new Map([...all, ['x', { kind: 'missing' } as ScoreEntry]]), on).mark).toBe(
      '68.0',
    )
    const entries = new Map([...all, ['x', points('5')] as const])
    // 13 of 10 in lab: 0.6 × 60 + 0.4 × 130.
    expect(termMark(withExtra, entries, on).mark).toBe('88.0')
    const held = explainMark({ ...withExtra, rules: { ...rules, most: '80' } }, entries, on)
    expect([held.mark, held.total, held.held]).toEqual(['80.0', '88.00', 'The highest mark is 80.'])
    expect(
      termMark(
        { ...withExtra, rules: { ...rules, most: null } },
        new Map([
          ['c', points('10')],
          ['x', points('5')],
        ]),
        on,
      ).mark,
    ).toBe('150.0')
  })
})

describe('against a slow, obvious way of working it out', () => {
  function obvious(
    { rules: r, categories, assignments }: Gradebook,
    entries: ScoreEntries,
  ): string | undefined {
    const pools = categories.map((c) => {
      // Due on one day, equal shares are dropped in the order in which they were made.
      let cells = [...assignments]
        .sort((a, b) => (a.id < b.id ? -1 : 1))
        .filter((a) => a.categoryId === c.id)
        .flatMap((a) => {
          const entry = entries.get(a.id)
          const of = decimalOf(a.maxPoints)
          if (!entry || entry.kind === 'excused' || entry.kind === 'unmarked') return []
          if (entry.kind === 'points') {
            const whole = decimalOf(entry.points)
            const base = r.late?.of === 'points scored' ? whole : of
            const lost =
              entry.late && r.late ? times(base, over(decimalOf(r.late.percent), [100n, 1n])) : none
            return [{ got: less(whole, lost) ? none : add(whole, [-lost[0], lost[1]]), of, extra: a.extra }]
          }
          const counting = entry.kind === 'missing' ? r.missingCounts : r.incompleteCounts
          return counting === 'zero' && !a.extra ? [{ got: none, of, extra: false }] : []
        })
      for (let n = 0; n < c.dropLowest && cells.filter((x) => !x.extra).length > 1; n++) {
        const regular = cells.filter((x) => !x.extra)
        let lowest = regular[0]
        for (const cell of regular)
          if (lowest && less(over(cell.got, cell.of), over(lowest.got, lowest.of))) lowest = cell
        cells = cells.filter((x) => x !== lowest)
      }
      const regular = cells.filter((x) => !x.extra)
      return {
        weight: decimalOf(c.weight),
        got: sumOf(cells.map((x) => x.got)),
        of: sumOf(regular.map((x) => x.of)),
        shares: sumOf(cells.map((x) => over(x.got, x.of))),
        pieces: BigInt(regular.length),
        within: c.within,
      }
    })
    const mean = () => {
      const atWork = pools.filter((p) => p.pieces > 0n && p.weight[0] > 0n)
      const weights = sumOf(atWork.map((p) => p.weight))
      if (atWork.length === 0) return undefined
      return over(
        sumOf(
          atWork.map((p) =>
            times(p.weight, p.within === 'pieces' ? over(p.shares, [p.pieces, 1n]) : over(p.got, p.of)),
          ),
        ),
        weights,
      )
    }
    const all = sumOf(pools.map((p) => p.of))
    const share =
      r.method === 'weights' ? mean() : all[0] === 0n ? undefined : over(sumOf(pools.map((p) => p.got)), all)
    if (!share) return undefined
    const percent = times(share, [100n, 1n])
    const [num, den] = r.most !== null && less(decimalOf(r.most), percent) ? decimalOf(r.most) : percent
    const scale = 10n ** BigInt(r.decimals)
    const rounded = (2n * num * scale + den) / (2n * den)
    const text = String(rounded).padStart(r.decimals + 1, '0')
    return r.decimals === 0 ? text : `${text.slice(0, -r.decimals)}.${text.slice(-r.decimals)}`
  }
  test('both agree on every gradebook', () => {
    fc.assert(
      fc.property(anyBook, ({ book: b, entries }) =>
        expect(termMark(b, entries, on).mark).toBe(obvious(b, entries)),
      ),
      { numRuns: cases(1000) },
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
        if (why.held !== undefined) return
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
