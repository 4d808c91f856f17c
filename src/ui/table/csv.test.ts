import fc from 'fast-check'
import { toCsv } from './csv'

/** Reads CSV by the standard's rules, as any program would. */
function read(text: string): string[][] {
  const rows: string[][] = [['']]
  let quoted = false
  const put = (c: string) => {
    const row = rows.at(-1) ?? []
    row[row.length - 1] += c
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i] ?? ''
    if (quoted && c === '"' && text[i + 1] === '"') {
      put('"')
      i++
    } else if (c === '"') quoted = !quoted
    else if (quoted) put(c)
    else if (c === ',') rows.at(-1)?.push('')
    else if (c === '\r' && text[i + 1] === '\n') {
      rows.push([''])
      i++
    } else put(c)
  }
  return rows.slice(0, -1)
}

test('begins with a byte order mark and a header row', () => {
  expect(toCsv(['Name', 'Number'], [['Okonjo-Marsh, Ilse', 420]])).toBe(
    '\ufeffName,Number\r\n"Okonjo-Marsh, Ilse",420\r\n',
  )
})

test.each(['=1+1', '+47 000', '-lyn', '@home', '\t=1'])('%j stays a text', (text) => {
  expect(read(toCsv(['a'], [[text]]).slice(1))).toEqual([['a'], [`'${text}`]])
})

test('a number is a number, also a negative one, and nothing is empty', () => {
  expect(toCsv(['a', 'b'], [[-3, null]])).toBe('\ufeffa,b\r\n-3,\r\n')
})

test('whatever is in a list can be read again', () => {
  const text = fc.string({ unit: 'grapheme', maxLength: 20 }).filter((t) => !/^[=+\-@\t\r]/.test(t))
  fc.assert(
    fc.property(fc.array(fc.tuple(text, text), { minLength: 1, maxLength: 8 }), (rows) => {
      expect(read(toCsv(['a', 'b'], rows).slice(1))).toEqual([['a', 'b'], ...rows])
    }),
  )
})
