import { birthDate, named, optionalLine, optionalText } from './inputs'

test('a name is one line without marks that turn its direction around', () => {
  const name = named('the name')
  expect(name.parse(' Ilse\u202e Marsh\u202c ')).toBe('Ilse Marsh')
  expect(name.parse('Okonjo-Marsh\tIlse')).toBe('Okonjo-Marsh Ilse')
  expect(optionalLine('the address').parse('3 Quay\r\nHollins\u2066')).toBe('3 Quay Hollins')
  expect(optionalText('the note', 100).parse('first\u202b\nsecond')).toBe('first\nsecond')
  expect(name.safeParse('\u202e').success).toBe(false)
  // Names of languages that are written from right to left need none.
  expect(name.parse('עדי')).toBe('עדי')
})

test('nobody at a school was born before 1920', () => {
  expect(birthDate.safeParse('2014-03-02').success).toBe(true)
  expect(birthDate.safeParse('1910-03-02').error?.issues[0]?.message).toBe(
    'Enter a date of birth from 1920 on.',
  )
})
