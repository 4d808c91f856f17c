import fc from 'fast-check'
import { readPasted, type PasteColumn } from './pasted'
import { fromHundredths, hundredths, roundHalfUp, writeUnits } from './rational'
import { readTypedScore, writeEntry } from './typed-score'

describe('a typed score', () => {
  const read = (text: string) => readTypedScore(text, '40')
  const entry = (text: string) => {
    const result = read(text)
    return result.ok ? writeEntry(result.entry) : result.problem
  }
  test.each([
    ['34', '34'],
    [' 34 ', '34'],
    ['8.5', '8.5'],
    ['8,5', '8.5'],
    ['.5', '0.5'],
    ['007', '7'],
    ['8.50', '8.5'],
    ['40', '40'],
    ['40.00', '40'],
    ['0', '0'],
    ['', ''],
    ['m', 'missing'],
    ['Missing', 'missing'],
    ['e', 'excused'],
    ['x', 'excused'],
    ['excused', 'excused'],
    ['ex', 'excused'],
    ['i', 'incomplete'],
    ['Inc', 'incomplete'],
    ['8l', '8 late'],
    ['8,5 late', '8.5 late'],
    ['L 8', '8 late'],
    ['30/40', '30'],
    ['30 / 40 l', '30 late'],
  ])('%j is %j', (typed, expected) => expect(entry(typed)).toBe(expected))
  test.each([
    ['41', '41 is over the maximum of 40.'],
    ['40.01', '40.01 is over the maximum of 40.'],
    ['-1', '-1 is below zero. Type a score from 0 to 40.'],
    [
      'abc',
      '"abc" is not a score. Type a number, with l where it was late, or m for missing, e for excused, i for incomplete.',
    ],
    [
      '1.2.3',
      '"1.2.3" is not a score. Type a number, with l where it was late, or m for missing, e for excused, i for incomplete.',
    ],
    [
      '.',
      '"." is not a score. Type a number, with l where it was late, or m for missing, e for excused, i for incomplete.',
    ],
    ['9/10', '9/10 is out of 10, but this assignment is out of 40.'],
    ['l', 'Type the points too: 8 l is 8 points, late.'],
    ['1.234', '1.234 has more than two decimals.'],
  ])('%j is refused: %s', (typed, problem) => expect(read(typed)).toEqual({ ok: false, problem }))
  test('an L alone makes points late, or in time again', () => {
    const late = { kind: 'points', points: '8', late: true } as const
    const inTime = { kind: 'points', points: '8' } as const
    expect(readTypedScore('l', '40', inTime)).toEqual({ ok: true, entry: late })
    expect(readTypedScore('L', '40', late)).toEqual({ ok: true, entry: inTime })
    expect(readTypedScore('l', '40', { kind: 'missing' }).ok).toBe(false)
  })
  test('what is written can be read back as the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4000 }), (n) => {
        const again = read(fromHundredths(n))
        expect(again).toEqual({ ok: true, entry: { kind: 'points', points: fromHundredths(n) } })
      }),
    )
  })
})

describe('what is pasted', () => {
  const students = [
    { name: 'Abara, Tobias', number: 401 },
    { name: 'Bellweather, Juno', number: 402 },
    { name: 'Castellane, Rui', number: 403 },
  ]
  const score = (most: string, name = 'Currents'): PasteColumn<string> => ({
    name,
    read: (text) => {
      const read = readTypedScore(text, most)
      return read.ok ? { ok: true, value: writeEntry(read.entry) } : read
    },
  })
  const paste = (text: string, columns = [score('40')]) =>
    readPasted(text, { students, columns, from: 0, rows: students.length })
  const cells = (text: string, columns = [score('40')]) => {
    const read = paste(text, columns)
    return read.ok ? read.cells.map((c) => [c.row, c.column, c.value]) : read.problems
  }
  test('takes one value a row, empty and missing too, with the line end a spreadsheet adds', () =>
    expect(cells('34\r\n\r\nm\r\n')).toEqual([
      [0, 0, '34'],
      [1, 0, ''],
      [2, 0, 'missing'],
    ]))
  test('takes several columns', () =>
    expect(cells('1\t2\n3\t4\n5\t6', [score('40'), score('10')])).toEqual([
      [0, 0, '1'],
      [0, 1, '2'],
      [1, 0, '3'],
      [1, 1, '4'],
      [2, 0, '5'],
      [2, 1, '6'],
    ]))
  test('finds students by their names or numbers, in any order, and not all need be there', () =>
    expect(cells('Rui Castellane\t30\nBELLWEATHER, Juno\t20\n401\t10')).toEqual([
      [2, 0, '30'],
      [1, 0, '20'],
      [0, 0, '10'],
    ]))
  test.each([
    ['34\n35', '2 values were copied, but there are 3 students'],
    ['1\n2\n3\n4', '4 values were copied, but there are 3 students'],
    ['1\t2\n3\t4\n5\t6', '2 columns were copied, but only 1 can be entered'],
    ['Rui Castellane\t30\nTobias Abara\t20\nMilan Farrow\t1', 'Milan Farrow is not in this class.'],
    ['Rui Castellane\t30\nRui Castellane\t20', 'Rui Castellane is there twice.'],
  ])('%j is refused whole', (text, problem) => {
    const read = paste(text)
    expect(read.ok).toBe(false)
    expect(!read.ok && read.problems.join(' ')).toContain(problem)
  })
  test('numbers that can be scores are scores, also where students have such numbers', () => {
    const few = students.map((s, i) => ({ ...s, number: i + 1 }))
    const read = readPasted('3\t1\n1\t2\n2\t3', {
      students: few,
      columns: [score('40'), score('40')],
      from: 0,
      rows: 3,
    })
    expect(read.ok && read.isByName).toBe(false)
    expect(read.ok && read.cells).toHaveLength(6)
  })
  test('a name that two have asks for numbers', () => {
    const twice = [...students, { name: 'Castellane, Rui', number: 404 }]
    const read = readPasted('Rui Castellane\t3\nTobias Abara\t4', {
      students: twice,
      columns: [score('40')],
      from: 0,
      rows: 4,
    })
    expect(!read.ok && read.problems[0]).toBe(
      'Rui Castellane could be 2 students. Paste their numbers in place of names.',
    )
  })
  test('names every row that cannot be read, and takes none', () =>
    expect(cells('34\nfifty\n50')).toEqual([
      'Juno Bellweather: "fifty" is not a score. Type a number, with l where it was late, or m for missing, e for excused, i for incomplete.',
      'Rui Castellane: 50 is over the maximum of 40.',
      'Nothing was pasted.',
    ]))
})

describe('exact decimals', () => {
  test('hundredths and back', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 99999999 }), (n) => hundredths(fromHundredths(n)) === n))
    expect([hundredths('41.5'), hundredths('7'), hundredths('0.05'), hundredths('12.500')]).toEqual([
      4150, 700, 5, 1250,
    ])
    expect(() => hundredths('1.234')).toThrow('is not a number with at most two decimals')
    expect(() => hundredths('-1')).toThrow(RangeError)
  })
  test('half goes up, never by binary accident', () => {
    expect(writeUnits(roundHalfUp({ num: 8995n, den: 100n }, 1), 1)).toBe('90.0')
    expect(writeUnits(roundHalfUp({ num: 1005n, den: 1000n }, 2), 2)).toBe('1.01')
    expect(writeUnits(roundHalfUp({ num: 1n, den: 3n }, 0), 0)).toBe('0')
    expect(writeUnits(5n, 3)).toBe('0.005')
  })
})
