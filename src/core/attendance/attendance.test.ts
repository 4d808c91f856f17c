import fc from 'fast-check'
import type { AttendanceCode, Meaning } from './codes'
import { checkCodeSet } from './code-set'
import { lacking, readTypedCode } from './codes'
import { codeColumns, readCodesCsv } from './codes-csv'
import { attendanceFigures } from './figures'
import { usualCodes } from './usual-codes'

const codes: AttendanceCode[] = usualCodes.map(([code, label, meaning]) => ({
  id: code,
  code,
  label,
  meaning,
}))

describe('a code as it is typed', () => {
  test('P is taken at once, in either case', () => {
    expect(readTypedCode('P', codes)).toMatchObject({ kind: 'complete', code: { code: 'P' } })
    expect(readTypedCode('p', codes)).toMatchObject({ kind: 'complete', code: { code: 'P' } })
  })
  test('A waits, because A1, A2 and A3 begin with it, and can be taken as it is', () => {
    const read = readTypedCode('a', codes)
    expect(read).toMatchObject({ kind: 'waiting', exact: { code: 'A' } })
    expect(read.kind === 'waiting' && read.possible.map((c) => c.code)).toEqual(['A', 'A1', 'A2', 'A3'])
  })
  test('A2 is complete; E waits without meaning anything yet; Z and A9 are no codes', () => {
    expect(readTypedCode('A2', codes)).toMatchObject({ kind: 'complete', code: { code: 'A2' } })
    expect(readTypedCode('E', codes)).toMatchObject({ kind: 'waiting', exact: undefined })
    expect(readTypedCode('Z', codes)).toEqual({ kind: 'unknown' })
    expect(readTypedCode('A9', codes)).toEqual({ kind: 'unknown' })
  })
  test('every code of any set can be reached by typing it', () => {
    const anySet = fc.uniqueArray(fc.stringMatching(/^[A-Z][A-Z0-9]{0,2}$/), { minLength: 1, maxLength: 12 })
    fc.assert(
      fc.property(anySet, (names) => {
        const set = names.map((code) => ({ id: code, code, label: code, meaning: 'present' as Meaning }))
        for (const { code } of set) {
          const read = readTypedCode(code, set)
          expect(
            read.kind === 'complete'
              ? read.code.code
              : read.kind === 'waiting'
                ? read.exact?.code
                : undefined,
          ).toBe(code)
        }
      }),
    )
  })
})

describe('attendance figures', () => {
  test('late and elsewhere count as present; not expected counts as nothing', () => {
    const figures = attendanceFigures(
      {
        present: 100,
        late: 5,
        elsewhere: 1,
        'absent with reason': 8,
        'absent without reason': 2,
        'not expected': 4,
      },
      2,
    )
    expect(figures).toEqual({
      possible: 116,
      present: 106,
      late: 5,
      elsewhere: 1,
      withReason: 8,
      withoutReason: 2,
      notExpected: 4,
      unmarked: 2,
      percentPresent: '91.4',
    })
  })
  test('a student without a session has no percentage, not zero', () => {
    expect(attendanceFigures({}, 0).percentPresent).toBeUndefined()
    expect(attendanceFigures({ 'not expected': 3 }, 0).percentPresent).toBeUndefined()
  })
  test('the percentage is rounded half up at one decimal', () => {
    expect(attendanceFigures({ present: 1, 'absent with reason': 7 }, 0).percentPresent).toBe('12.5')
    expect(attendanceFigures({ present: 1999, 'absent with reason': 1 }, 0).percentPresent).toBe('100.0')
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }), (present, away) => {
        fc.pre(present + away > 0)
        const shown = Number(attendanceFigures({ present, 'absent with reason': away }, 0).percentPresent)
        expect(Math.abs(shown - (100 * present) / (present + away))).toBeLessThanOrEqual(0.0500001)
      }),
    )
  })
})

describe('a set of codes as it is being entered', () => {
  const set = usualCodes.map(([code, label, meaning]) => ({
    code: code as string,
    label: label as string,
    familyLabel: '',
    meaning: meaning as Meaning,
    needsMinutes: false,
    needsNote: false,
    officeOnly: false,
  }))
  const p = set[0]
  const also = (over: object) => (p ? [...set, { ...p, ...over }] : [])
  test('is right as it stands', () => expect(checkCodeSet(set)).toEqual([]))
  test.each([
    [{ code: '' }, 'Enter a code'],
    [{ code: 'ABCDE' }, '1 to 4 letters'],
    [{ code: '1A' }, 'begins with a letter'],
    [{ code: 'p' }, 'P is in the set twice'],
    [{ code: 'Al' }, 'AL is easily mistaken for A1'],
    [{ code: 'X', label: ' ' }, 'Enter what the code means'],
    [{ code: 'X', needsMinutes: true }, 'Only a code for late'],
  ])('%j is pointed out', (over, words) =>
    expect(checkCodeSet(also(over)).map((x) => x.message)).toEqual([expect.stringContaining(words)]),
  )
  test('needs a code for present and one for absent without reason yet', () => {
    expect(checkCodeSet(set.filter((c) => c.code !== 'P')).map((x) => x.path)).toEqual([[]])
    expect(checkCodeSet([]).map((x) => x.message)).toEqual([
      'The set needs a code for present.',
      'The set needs a code for absent, no reason yet.',
    ])
  })
  test('goes out as a table and comes back the same', () => {
    const codes = set.map((c) =>
      c.code === 'L' ? { ...c, needsMinutes: true, needsNote: true } : { ...c, officeOnly: c.code === 'N' },
    )
    const table = [codeColumns.map((c) => c.title), ...codes.map((c) => codeColumns.map((k) => k.textOf(c)))]
    expect(readCodesCsv(table)).toEqual({ codes, problems: [] })
  })
  test('is read whole or not at all, each bad row with its reason', () => {
    const titles = ['Meaning', 'Code', 'Label']
    expect(readCodesCsv([])).toMatchObject({ codes: [], problems: { length: 3 } })
    expect(readCodesCsv([titles]).problems).toEqual(['The file has no rows below its titles.'])
    const read = readCodesCsv([titles, ['present', 'p', 'Here'], ['away', 'A', 'Away']])
    expect(read.codes).toEqual([])
    expect(read.problems).toEqual([expect.stringContaining('Row 3: "away" is not a meaning.')])
    const twice = readCodesCsv([titles, ['present', 'P', 'Here'], ['absent without reason', 'P', 'Away']])
    expect(twice.problems).toEqual(['Row 3: P is in the set twice.'])
  })
})

test('a mark lacks the minutes or the note that its code asks for', () => {
  const both = { needsMinutes: true, needsNote: true }
  expect(lacking(both, { minutesLate: null, note: null })).toBe('minutes')
  expect(lacking(both, { minutesLate: 0, note: null })).toBe('note')
  expect(lacking(both, { minutesLate: 5, note: 'Ferry' })).toBeUndefined()
})
