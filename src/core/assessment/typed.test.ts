import fc from 'fast-check'
import type { Keyed } from './kinds'
import { keyedInLine, readAnswers, readKeys, writeAnswers, writeKeys } from './typed'

const one = (choices = 4) => ({
  kind: 'one choice' as const,
  content: { choices: [...'ABCDEFGHIJ'.slice(0, choices)], right: null },
  points: '1',
})
const ten = Array.from({ length: 10 }, () => one())
const values = (line: string, questions: readonly (Keyed & { points: string })[] = ten) =>
  readAnswers(line, questions).entries.map((e) => e?.value)

describe('letters typed in order', () => {
  test('CBDAACDBBA is ten answers', () => {
    expect(readAnswers('CBDAACDBBA', ten)).toMatchObject({ complete: true, problems: [] })
    expect(values('CBDAACDBBA').join('')).toBe('CBDAACDBBA')
  })
  test('small letters and spaces are for the eye; a point or hyphen is left out', () => {
    expect(readAnswers('cbda acd bb.', ten)).toMatchObject({ complete: true })
    expect(values('cbda acd bb-')[9]).toBeUndefined()
  })
  test.each([
    ['CBDAACDBB', '9 of 10 letters typed: 1 remaining. Type . for a question left out.'],
    ['CBDAACDBBAA', '11 letters typed for 10 questions: 1 too many.'],
    ['CBXAACDBBA', 'Question 3: X is not a choice. Type A to D.'],
    ['CBE', 'Question 3: E is not a choice. Type A to D.'],
  ])('%s: %s', (typed, problem) => {
    const read = readAnswers(typed, ten)
    expect(read.complete).toBe(false)
    expect(read.problems).toContain(problem)
  })
  test('questions may differ in their number of choices', () => {
    expect(readAnswers('BE', [one(2), one(5)]).complete).toBe(true)
    expect(readAnswers('CE', [one(2), one(5)]).problems).toEqual([
      'Question 1: C is not a choice. Type A to B.',
    ])
  })
  test('written and read again they are the same', () => {
    const answers = fc.array(fc.option(fc.constantFrom('A', 'B', 'C', 'D'), { nil: undefined }), {
      minLength: 1,
      maxLength: 40,
    })
    fc.assert(
      fc.property(answers, (given) => {
        const questions = given.map(() => one())
        const line = writeAnswers(
          questions,
          given.map((value) => (value ? { value, points: null } : undefined)),
        )
        expect(values(line, questions)).toEqual(given)
      }),
    )
  })
})

describe('answers of all kinds in one line', () => {
  const all: readonly (Keyed & { readonly points: string })[] = [
    one(),
    {
      kind: 'several choices' as const,
      content: { choices: [...'ABCDE'], right: ['A', 'C'], rule: 'all or nothing' as const },
      points: '2',
    },
    { kind: 'true or false' as const, content: { right: true }, points: '1' },
    {
      kind: 'number' as const,
      content: { right: '3.5', tolerance: '0', toleranceIn: 'units' as const, unit: 'm' },
      points: '2',
    },
    {
      kind: 'short text' as const,
      content: { accepted: ['ice'], matters: { case: false, accents: false, spaces: false } },
      points: '1',
    },
    { kind: 'written' as const, content: {}, points: '4' },
  ]
  test('are read as they are read aloud', () => {
    const read = readAnswers('b c+a t 3,5 "sea ice" 2,5', all)
    expect(read).toMatchObject({ complete: true, problems: [] })
    expect(read.entries).toEqual([
      { value: 'B', points: null },
      { value: ['A', 'C'], points: null },
      { value: true, points: null },
      { value: '3,5', points: null },
      { value: 'sea ice', points: null },
      { value: '', points: '2.5' },
    ])
    expect(writeAnswers(all, read.entries)).toBe('B A+C T 3,5 "sea ice" 2.5')
  })
  test('close together, as long as each ends by itself', () => {
    expect(values('Ba+ct-3.5"ice"?', all)).toEqual(['B', ['A', 'C'], true, '-3.5', 'ice', ''])
    expect(values('.. F . . .', all)).toEqual([undefined, undefined, false, undefined, undefined, undefined])
  })
  test.each([
    ['B A+G T 3.5 "ice" ?', 'Question 2: G is not a choice. Type A to E, with + between several.'],
    ['B A X 3.5 "ice" ?', 'Question 3: X is neither true nor false. Type T or F.'],
    ['B A T q "ice" ?', 'Question 4: q is not a number.'],
    ['B A T 3.5 "" ?', 'Question 5: there is nothing between the quotation marks.'],
    ['B A T 3.5 "ice" 5', 'Question 6: 5 is more than its 4 points.'],
    ['B A T 3.5 "ice" 1.255', 'Question 6: 1.255 is neither points nor ?.'],
    ['B A T', '3 of 6 answers typed: 3 remaining. Type . for a question left out.'],
  ])('%s: %s', (typed, problem) => expect(readAnswers(typed, all).problems).toContain(problem))
  test('a key in one line leaves out what is marked by hand, and keeps what a line cannot say', () => {
    const inLine = keyedInLine(all)
    expect(inLine).toHaveLength(5)
    const { entries, complete } = readKeys('B C+E F 12 "ice/frozen water"', inLine)
    expect(complete).toBe(true)
    expect(entries[1]).toMatchObject({ right: ['C', 'E'], rule: 'all or nothing' })
    expect(entries[3]).toMatchObject({ right: '12', unit: 'm' })
    expect(entries[4]).toMatchObject({ accepted: ['ice', 'frozen water'] })
    expect(writeKeys(all)).toBe('. A+C T 3.5 "ice"')
  })
  test('any characters end in answers or in problems', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'ABTF+.,-0123456789" ?x\n½'), maxLength: 40 }),
        (text) => {
          const read = readAnswers(text, all)
          expect(read.entries).toHaveLength(all.length)
          expect(read.complete).toBe(read.problems.length === 0)
        },
      ),
      { numRuns: 10_000 },
    )
  })
})
