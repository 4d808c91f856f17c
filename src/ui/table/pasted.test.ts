import { pasted } from './pasted'

test('values stand between tabs, a line for each row, whatever they hold', () => {
  expect(
    pasted(
      ['Name', 'Mark'],
      [
        ['Lacey,\tThora', 12.5],
        ['two\nlines', null],
      ],
    ),
  ).toBe('Name\tMark\nLacey, Thora\t12.5\ntwo lines\t')
})

test('a text that a spreadsheet program would take for a formula stays a text; a number stays a number', () => {
  for (const text of ['=1+1', '+1', '-1', '@sum', '\t=1'])
    expect(
      pasted(['Name'], [[text]])
        .split('\n')[1]
        ?.startsWith("'"),
    ).toBe(true)
  expect(pasted(['Mark'], [[-1]])).toBe('Mark\n-1')
})
