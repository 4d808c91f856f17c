import type { EnteredColumn } from './column'
import { readTypedEntry, valueOfEntry } from './entered'

const list: EnteredColumn = {
  id: 'e',
  name: 'Effort',
  termId: null,
  does: 'choice',
  choices: [
    { name: 'excellent', value: '4' },
    { name: 'good', value: '3' },
    { name: 'not yet', value: null },
    { name: 'not at all', value: '0' },
  ],
}
const number: EnteredColumn = { ...list, does: 'number', choices: [] }

test.each([
  ['', null],
  ['g', 'good'],
  ['EXC', 'excellent'],
  ['notyet', 'not yet'],
  ['not at all', 'not at all'],
])('%j in a list is %j', (typed, value) => expect(readTypedEntry(typed, list)).toEqual({ ok: true, value }))

test.each([
  ['not', /not yet, not at all/],
  ['fine', /none of excellent, good/],
])('%j in a list is refused', (typed, problem) =>
  expect(readTypedEntry(typed, list)).toEqual({ ok: false, problem: expect.stringMatching(problem) }),
)

test.each([
  ['7,5', '7.5'],
  ['08', '8'],
  ['0', '0'],
  ['3.10', '3.1'],
])('%j as a number is %j', (typed, value) =>
  expect(readTypedEntry(typed, number)).toEqual({ ok: true, value }),
)

test.each(['-1', 'ex', '1.234', '100000', '9/10'])('%j is no number', (typed) =>
  expect(readTypedEntry(typed, number).ok).toBe(false),
)

test('a choice counts as its value, one without a value as nothing', () => {
  expect(valueOfEntry(list, 'good')).toEqual({ value: { num: 300n, den: 100n } })
  expect(valueOfEntry(list, 'not yet')).toEqual({ value: undefined })
  expect(valueOfEntry(list, null)).toEqual({ value: undefined })
  expect(valueOfEntry(number, '7.5')).toEqual({ value: { num: 750n, den: 100n } })
})
