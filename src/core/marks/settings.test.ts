import { settingsInput } from './inputs'
import { matchByName, oddWeights, settingsOf, withSettings } from './settings'
import { usualRules, usualSettings } from './usual-settings'

const named = (name: string, was?: string) => ({
  name,
  weight: '10',
  within: 'points' as const,
  dropLowest: 0,
  ...(was === undefined ? {} : { was }),
})
const own = ['Tests', 'Lab', 'Homework'].map((name) => ({ id: name, name }))
const ids = (lines: readonly ReturnType<typeof named>[]) => {
  const { lines: matched, gone } = matchByName(own, lines)
  return [matched.map((m) => m.own?.id), gone.map((c) => c.id)]
}

test('categories of a gradebook are found by their names, whatever their capitals and order', () => {
  expect(ids([named('homework '), named('TESTS'), named('Project')])).toEqual([
    ['Homework', 'Tests', undefined],
    ['Lab'],
  ])
})

test('a category under another name stays the same, also where another takes its former name', () => {
  expect(ids([named('Tests'), named('Examinations', 'Tests'), named('Lab')])).toEqual([
    [undefined, 'Tests', 'Lab'],
    ['Homework'],
  ])
  expect(ids([named('Lab', 'Tests'), named('Tests', 'Lab')])).toEqual([['Tests', 'Lab'], ['Homework']])
})

test('a gradebook set to what it is set to is the same', () => {
  const book = {
    rules: { ...usualRules, bands: [] },
    categories: usualSettings.categories.map((c, i) => ({ ...c, id: String(i) })),
    assignments: [],
  }
  expect(withSettings(book, settingsOf(book))).toEqual(book)
})

test('weights are odd where they do not make 100, and matter only where there are any', () => {
  expect(oddWeights(usualSettings)).toBeUndefined()
  expect(oddWeights({ method: 'weights', categories: [{ weight: '33.33' }, { weight: 'x' }] })).toBe(3333)
  expect(oddWeights({ method: 'points', categories: [] })).toBeUndefined()
})

test.each([
  [{ late: { percent: '0', of: 'points scored' } }, 'late.percent', 'more than 0 per cent'],
  [{ most: '0' }, 'most', 'at least 1'],
  [{ categories: [named('A'), named(' a ')] }, 'categories.1.name', 'twice'],
  [{ categories: [named('A')], targets: [] }, 'targets', 'at least one gradebook'],
])('%j is refused at %s', (change, path, message) => {
  const id = '01900000-0000-7000-8000-000000000001'
  const input = { termId: id, targets: [{ classId: id, expectedVersion: 1 }], ...usualSettings, ...change }
  const read = settingsInput.safeParse(input)
  expect(read.error?.issues.map((i) => [i.path.join('.'), i.message])).toContainEqual([
    path,
    expect.stringContaining(message),
  ])
})
