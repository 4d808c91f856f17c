import fc from 'fast-check'
import { ownPath } from './own-path'

test.each([
  ['/classes?date=2026-11-23#marks', '/classes?date=2026-11-23#marks'],
  ['/', '/'],
  [undefined, '/'],
  ['', '/'],
  ['classes', '/'],
  ['https://elsewhere.example/', '/'],
  ['//elsewhere.example', '/'],
  ['/\\elsewhere.example', '/'],
  ['/\t/elsewhere.example', '/'],
  ['/\n\\elsewhere.example', '/'],
  ['/.//elsewhere.example', '/'],
  ['/x/..//elsewhere.example', '/'],
  ['javascript:alert(1)', '/'],
])('%j leads to %j', (asked, expected) => expect(ownPath(asked)).toBe(expected))

test('whatever is asked for, the browser stays in Kedge', () => {
  const piece = fc.constantFrom(
    '/',
    '\\',
    '\t',
    '\r',
    '.',
    '..',
    'x',
    '@',
    ':',
    '?',
    '#',
    '%2f',
    '%5c',
    'elsewhere.example',
  )
  fc.assert(
    fc.property(fc.array(piece), (pieces) => {
      const origin = 'https://kedge.school.example'
      expect(new URL(ownPath(pieces.join('')), origin).origin).toBe(origin)
    }),
  )
})
