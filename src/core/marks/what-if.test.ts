import fc from 'fast-check'
import { cases } from '@tests/cases'
import type { CellEntry, Gradebook } from './gradebook'
import { termMark } from './term-mark'
import { gradesToWish, hangsOn, liftsOf, neededFor } from './what-if'

const dates = { on: '2026-11-23', since: '2026-09-01' }
const book: Gradebook = {
  rules: {
    method: 'weights',
    decimals: 1,
    emptyCounts: 'nothing',
    missingCounts: 'zero',
    incompleteCounts: 'nothing',
    late: null,
    most: '100',
    bands: [
      { grade: 'A', fromPercent: '90' },
      { grade: 'B', fromPercent: '80' },
      { grade: 'E', fromPercent: '0' },
    ],
  },
  categories: [
    { id: 'tests', name: 'Unit tests', weight: '60', within: 'points', dropLowest: 0 },
    { id: 'home', name: 'Homework', weight: '40', within: 'points', dropLowest: 1 },
  ],
  assignments: [
    {
      id: 't1',
      name: 'Currents',
      categoryId: 'tests',
      maxPoints: '40',
      dueOn: '2026-10-01',
      counts: true,
      extra: false,
    },
    {
      id: 't2',
      name: 'Melting',
      categoryId: 'tests',
      maxPoints: '40',
      dueOn: '2026-12-10',
      counts: true,
      extra: false,
    },
    {
      id: 'h1',
      name: 'Week 3',
      categoryId: 'home',
      maxPoints: '10',
      dueOn: '2026-09-20',
      counts: true,
      extra: false,
    },
    {
      id: 'h2',
      name: 'Week 5',
      categoryId: 'home',
      maxPoints: '10',
      dueOn: '2026-10-05',
      counts: true,
      extra: false,
    },
    {
      id: 'h3',
      name: 'Week 7',
      categoryId: 'home',
      maxPoints: '10',
      dueOn: '2026-10-20',
      counts: true,
      extra: false,
    },
  ],
}
const entered = (...list: readonly (readonly [string, string | CellEntry])[]) =>
  new Map<string, CellEntry>(
    list.map(([id, entry]) => [id, typeof entry === 'string' ? { kind: 'points', points: entry } : entry]),
  )
const full = entered(['t1', '32'], ['h1', '8'], ['h2', '9'], ['h3', { kind: 'missing' }])

test('the missing piece that would change most comes first, with the mark there would be', () => {
  expect(liftsOf(book, full, dates).map((l) => [l.assignment.name, l.points, l.mark, l.grade])).toEqual([
    ['Week 7', '10', '86.0', 'B'],
  ])
  expect(liftsOf(book, entered(['t1', '40']), dates)).toEqual([])
})

test('what is needed: a share of what is left, certain, out of reach, or nothing left', () => {
  // 60 x (32 + x) / 80 + 40 x 85% is 84.95 or more from x = 35.94, since the mark is rounded.
  const needed = neededFor(book, full, dates, '85')
  expect(needed).toMatchObject({ kind: 'share', percent: '89.83', pieces: [{ name: 'Melting' }] })
  expect(neededFor(book, full, dates, '40')).toEqual({ kind: 'certain' })
  expect(neededFor(book, entered(['t1', '1'], ['h1', '1']), dates, '90')).toEqual({
    kind: 'out of reach',
    mark: expect.any(String),
  })
  const all = new Map(full).set('t2', { kind: 'points', points: '30' })
  expect(neededFor(book, all, dates, '90')).toEqual({ kind: 'nothing left' })
})

test('a grade hangs on the piece without which it would be another one', () => {
  const one = entered(['t1', '40'], ['h1', '5'], ['h2', '6'])
  expect(hangsOn(book, one, dates)).toMatchObject({ assignment: { name: 'Currents' }, grade: 'E' })
  expect(hangsOn(book, entered(['t1', '30'], ['h1', '2']), dates)).toBeUndefined()
  expect(hangsOn(book, new Map(), dates)).toBeUndefined()
})

test('grades that everybody has are no wish', () =>
  expect(gradesToWish(book).map((w) => w.grade)).toEqual(['A', 'B']))

const kinds = fc.tuple(fc.nat(3), fc.nat(40))
const rules = fc.tuple(fc.integer({ min: 10, max: 99 }), fc.nat(2))

test('the share that is needed is the lowest there is, in random gradebooks', () =>
  fc.assert(
    fc.property(
      fc.tuple(kinds, kinds, kinds, kinds, kinds),
      fc.tuple(rules, rules),
      fc.integer({ min: 40, max: 99 }),
      (cells, categories, wish) => {
        const entries = new Map<string, CellEntry>()
        book.assignments.forEach((a, i) => {
          const [kind, points] = cells[i] ?? [0, 0]
          if (kind === 1) entries.set(a.id, { kind: 'missing' })
          else if (kind > 1)
            entries.set(a.id, { kind: 'points', points: String(Math.min(points, Number(a.maxPoints))) })
        })
        const own: Gradebook = {
          ...book,
          categories: book.categories.map((c, i) => ({
            ...c,
            weight: String(categories[i]?.[0]),
            dropLowest: categories[i]?.[1] ?? 0,
          })),
        }
        const needed = neededFor(own, entries, dates, String(wish))
        const left = own.assignments.filter((a) => !entries.has(a.id))
        // A plain walk through the shares, with fractions of points rounded up as a plain number.
        const reaches = (share: number) => {
          const then = new Map(entries)
          for (const a of left)
            then.set(a.id, {
              kind: 'points',
              points: (Math.ceil((Number(a.maxPoints) * 100 * share) / 10_000) / 100).toFixed(2),
            })
          return Number(termMark(own, then, dates).mark ?? -1) >= wish
        }
        let plain: number | undefined
        for (let share = 0; share <= 10_000 && plain === undefined; share += 25)
          if (reaches(share)) plain = share
        if (left.length === 0) return expect(needed.kind).toBe('nothing left')
        if (plain === undefined) return expect(needed.kind).toBe('out of reach')
        if (plain === 0) return expect(needed.kind).toBe('certain')
        while (reaches(plain - 1)) plain--
        return expect(needed).toMatchObject({ kind: 'share', percent: String(plain / 100) })
      },
    ),
    { numRuns: cases(150) },
  ))
