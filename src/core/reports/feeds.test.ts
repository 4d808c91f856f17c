import { proposeFeeds, unsettled, type FeedSource, type ReportLine } from './feeds'

const line = (id: string, name: string, kind: ReportLine['kind'] = 'mark'): ReportLine => ({ id, name, kind })
const source = (columnId: string | null, name: string, ...kinds: FeedSource['kinds']): FeedSource => ({
  columnId,
  name,
  kinds: kinds.length > 0 ? kinds : ['mark'],
})
const term = source(null, 'Term mark')
const proposed = (...asked: Parameters<typeof proposeFeeds>) =>
  Object.fromEntries([...proposeFeeds(...asked)].map(([id, s]) => [id, s.name]))

test('a line gets the column of its name and kind, and the first line of marks the mark of the term', () => {
  const lines = [line('1', 'Mark'), line('2', 'Target', 'word'), line('3', 'Year')]
  const sources = [term, source('a', ' target', 'word'), source('b', 'Target'), source('c', 'year')]
  expect(proposed(lines, sources, [])).toEqual({ 1: 'Term mark', 2: ' target', 3: 'year' })
})

test('nothing is proposed twice, nor for what is filled already', () => {
  const lines = [line('1', 'Mark'), line('2', 'Second'), line('3', 'Third')]
  expect(proposed(lines, [term], [])).toEqual({ 1: 'Term mark' })
  expect(proposed(lines, [term, source('a', 'Best')], [{ lineId: '1', columnId: null }])).toEqual({
    2: 'Best',
  })
  // Of several that would do, none is guessed.
  expect(
    proposed([line('1', 'Level', 'word')], [source('a', 'Effort', 'word'), source('b', 'Aim', 'word')], []),
  ).toEqual({})
})

test('lines without a column and columns that fill several come first', () => {
  expect(
    unsettled([
      { lineId: '1', columnId: null },
      { lineId: '2', columnId: 'a' },
      { lineId: '3', columnId: 'a' },
      { lineId: '4', columnId: undefined },
    ]),
  ).toEqual({ unfed: ['4'], twice: ['2', '3'] })
})
