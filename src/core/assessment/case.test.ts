import fc from 'fast-check'
import { readCase, writeCase } from './case'
import { inTree, type StandardSet } from './standards'
import { readStandardRows } from './standards-csv'

const item = (identifier: string, fullStatement: string, more: object = {}) => ({
  identifier,
  fullStatement,
  ...more,
})
const under = (child: string, parent: string, sequenceNumber?: number) => ({
  associationType: 'isChildOf',
  originNodeURI: { identifier: child },
  destinationNodeURI: { identifier: parent },
  ...(sequenceNumber === undefined ? {} : { sequenceNumber }),
})
const packed = (items: readonly object[], associations: readonly object[] = []) =>
  JSON.stringify({
    CFDocument: { identifier: 'doc', title: 'Science' },
    CFItems: items,
    CFAssociations: associations,
  })
const setOf = (text: string): StandardSet => {
  const read = readCase(text)
  if ('problems' in read) throw new Error(read.problems.join(' '))
  return read.set
}
const problemsOf = (text: string) => {
  const read = readCase(text)
  return 'problems' in read ? read.problems : []
}

describe('a CASE package', () => {
  test('is a tree in the order its associations say, with codes, years and identifiers', () => {
    const set = setOf(
      packed(
        [
          item('c', 'Melts', { humanCodingScheme: 'SCI.7.02', educationLevel: ['07', '08'] }),
          item('a', 'Heat'),
          item('b', 'Freezes', { humanCodingScheme: 'SCI.7.01' }),
        ],
        [under('a', 'doc', 1), under('c', 'a', 2), under('b', 'a', 1), { associationType: 'isRelatedTo' }],
      ),
    )
    expect(set).toMatchObject({ name: 'Science', source: 'doc' })
    expect(inTree(set.standards).placed.map((p) => [p.depth, p.standard.code, p.standard.statement])).toEqual(
      [
        [0, null, 'Heat'],
        [1, 'SCI.7.01', 'Freezes'],
        [1, 'SCI.7.02', 'Melts'],
      ],
    )
    expect(set.standards[2]?.years).toEqual(['07', '08'])
  })
  test.each([
    ['{', 'it is not JSON'],
    ['[]', 'it needs a CFDocument and CFItems'],
    [packed([]), 'There are no items'],
    [packed([item('a', '')]), 'a has no statement'],
    [packed([item('', 'Heat')]), 'has no identifier'],
    [packed([item('a', 'Heat'), item('a', 'Ice')]), 'appears twice'],
    [packed([item('a', 'Heat')], [under('a', 'gone')]), 'stands under gone, which is not in the file'],
    [
      packed([item('a', 'Heat'), item('b', 'Ice')], [under('a', 'b'), under('b', 'a')]),
      'stands under itself',
    ],
    [packed([item('a', 'Heat')], [under('a', 'a')]), 'stands under itself'],
    [packed([item('a', 'x'.repeat(3000))]), 'more than 2000 characters'],
  ])('%s: %s', (text, problem) => expect(problemsOf(text).join(' ')).toContain(problem))
  test('written and read again it is the same', () => {
    const words = fc.stringMatching(/^[A-Za-z][a-z .]{0,20}[a-z]$/).map((s) => s.replace(/\s+/g, ' '))
    const standards = fc
      .array(fc.record({ words, code: fc.option(fc.stringMatching(/^[A-Z]{3}\.\d$/)), parent: fc.nat(30) }), {
        minLength: 1,
        maxLength: 30,
      })
      .map((drawn) =>
        drawn.map((d, i) => ({
          id: `s${i}`,
          parentId: i === 0 || d.parent >= i ? null : `s${d.parent}`,
          code: d.code,
          statement: d.words,
          years: i % 2 === 0 ? ['07'] : [],
          source: i % 3 === 0 ? `elsewhere-${i}` : null,
        })),
      )
    fc.assert(
      fc.property(standards, (drawn) => {
        const ordered = inTree(drawn).placed.map((p) => p.standard)
        const written = writeCase(
          { id: 'set', name: 'Science', source: null, standards: ordered },
          { creator: 'Wrackline School', at: '2026-11-23T09:05:00Z' },
        )
        const read = setOf(written)
        const named = new Map(ordered.map((s) => [s.source ?? s.id, s]))
        expect(read.standards.map((s) => [s.code, s.statement, s.years])).toEqual(
          ordered.map((s) => [s.code, s.statement, s.years]),
        )
        expect(read.standards.map((s) => named.get(s.parentId ?? '')?.id ?? null)).toEqual(
          ordered.map((s) => s.parentId),
        )
      }),
    )
  })
  test('ten thousand damaged packages end in a set or in problems', () => {
    const whole = packed(
      [item('a', 'Heat', { humanCodingScheme: 'A' }), item('b', 'Ice', { educationLevel: ['07'] })],
      [under('a', 'doc', 1), under('b', 'a')],
    )
    fc.assert(
      fc.property(
        fc.nat(whole.length),
        fc.nat(12),
        fc.string({ maxLength: 6 }),
        fc.constantFrom('null', '[]', '{}', '7', '"x"', ''),
        (at, cut, put, value) => {
          readCase(whole.slice(0, at) + put + whole.slice(at + cut))
          readCase(whole.replace(/"[^"]*"(?=[,}])/, value))
        },
      ),
      { numRuns: 10_000 },
    )
  })
  test('a chain of thousands is read', () => {
    const items = Array.from({ length: 4000 }, (_, i) => item(`i${i}`, `Step ${i}`))
    const chain = items.slice(1).map((_, i) => under(`i${i + 1}`, `i${i}`))
    expect(inTree(setOf(packed(items, chain)).standards).placed.at(-1)?.depth).toBe(3999)
  })
})

describe('a file of rows', () => {
  const head = ['Code', 'Statement', 'Parent', 'Years']
  test('is a tree by codes', () => {
    const read = readStandardRows(
      [head, ['SCI', 'Science', '', ''], ['SCI.7', 'Heat', 'SCI', '07, 08']],
      'Science.csv',
    )
    expect('set' in read && read.set.name).toBe('Science')
    expect(
      'set' in read && inTree(read.set.standards).placed.map((p) => [p.depth, p.standard.years]),
    ).toEqual([
      [0, []],
      [1, ['07', '08']],
    ])
  })
  test.each([
    [[['Name']], 'There is no statement'],
    [[head], 'There are no rows'],
    [[head, ['A', '', '', '']], 'Row 2 has no statement'],
    [[head, ['A', 'x', '', ''], ['A', 'y', '', '']], 'Row 3: the code A appears twice'],
    [[head, ['A', 'x', 'B', '']], 'Row 2: there is no code B to stand under'],
    [[head, ['A', 'x', 'B', ''], ['B', 'y', 'A', '']], 'A stands under itself'],
  ])('%j: %s', (rows, problem) => {
    const read = readStandardRows(rows, 'x.csv')
    expect('problems' in read ? read.problems.join(' ') : '').toContain(problem)
  })
})
