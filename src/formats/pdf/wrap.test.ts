import fc from 'fast-check'
import { wrap } from './wrap'

const widthOf = (text: string) => text.length

test('breaks at spaces, at line ends, and within a word that is too wide', () => {
  expect(wrap('Works steadily and asks good questions', 14, widthOf)).toEqual([
    'Works steadily',
    'and asks good',
    'questions',
  ])
  expect(wrap('One\nTwo\r\nThree', 20, widthOf)).toEqual(['One', 'Two', 'Three'])
  expect(wrap('abcdefghij kl', 4, widthOf)).toEqual(['abcd', 'efgh', 'ij', 'kl'])
  expect(wrap('', 10, widthOf)).toEqual([''])
})

test('no line is wider than it may be, and no letter is lost', () => {
  fc.assert(
    fc.property(
      fc.array(fc.stringMatching(/^[a-zæø]{1,12}$/), { maxLength: 40 }),
      fc.integer({ min: 3, max: 30 }),
      (words, width) => {
        const lines = wrap(words.join(' '), width, widthOf)
        expect(lines.every((l) => l.length <= width)).toBe(true)
        expect(lines.join('').replaceAll(' ', '')).toBe(words.join(''))
      },
    ),
  )
})
