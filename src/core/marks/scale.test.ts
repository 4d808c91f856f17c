import { bandWords, checkBands } from './bands'
import { scaleInput } from './scale'

const letters = [
  { grade: 'A', fromPercent: '90' },
  { grade: 'B', fromPercent: '79.5' },
  { grade: 'C', fromPercent: '0' },
]

test('a scale whose grades cover 0 to 100 once is in order', () => {
  expect(checkBands(letters)).toEqual([])
  expect(
    scaleInput.safeParse({ expectedVersion: 0, name: 'Letters', startsOn: null, bands: letters }).success,
  ).toBe(true)
})

test.each([
  ['the same grade twice', [...letters, { grade: 'a', fromPercent: '5' }], [3, 'grade'], /twice/],
  [
    'two at one percentage',
    [...letters, { grade: 'D', fromPercent: '90.00' }],
    [3, 'fromPercent'],
    /both begin/,
  ],
  ['none from 0', letters.slice(0, 2), [1, 'fromPercent'], /must begin at 0/],
] as const)('%s is pointed out in its row', (_, bands, path, message) => {
  expect(checkBands(bands)).toEqual([{ path, message: expect.stringMatching(message) }])
})

test('what is not filled in yet is not called wrong', () => {
  expect(checkBands([...letters.slice(0, 2), { grade: '', fromPercent: '' }])).toEqual([])
})

test.each(['101', '-1', '3.456', 'ninety'])('%s is no percentage', (fromPercent) => {
  const bands = [...letters, { grade: 'D', fromPercent }]
  expect(scaleInput.safeParse({ expectedVersion: 0, name: 'Letters', startsOn: null, bands }).success).toBe(
    false,
  )
})

test('grades are read out from the highest down, whatever their order', () => {
  expect(bandWords([...letters].reverse())).toEqual([
    'A 90 and above',
    'B 79.5 to under 90',
    'C 0 to under 79.5',
  ])
})
