import fc from 'fast-check'
import { readLetters, writeLetters } from './answer-key'
import { levelOf, readFindings, scoreSheet, summarise, type ScoredQuestion, type Sheet } from './findings'

describe('letters typed in order', () => {
  const ten = Array.from({ length: 10 }, () => 4)
  test('CBDAACDBBA is ten answers', () => {
    const read = readLetters('CBDAACDBBA', ten)
    expect(read).toMatchObject({ complete: true, problems: [] })
    expect(read.letters.join('')).toBe('CBDAACDBBA')
  })
  test('small letters and spaces are for the eye; a point or hyphen is left out', () => {
    expect(readLetters('cbda acd bb.', ten)).toMatchObject({ complete: true })
    expect(readLetters('cbda acd bb-', ten).letters[9]).toBeUndefined()
  })
  test.each([
    ['CBDAACDBB', '9 of 10 letters typed: 1 remaining. Type . for a question left out.'],
    ['CBDAACDBBAA', '11 letters typed for 10 questions: 1 too many.'],
    ['CBXAACDBBA', 'Question 3: X is not a choice. Type A to D.'],
    ['CBE', 'Question 3: E is not a choice. Type A to D.'],
  ])('%s: %s', (typed, problem) => {
    const read = readLetters(typed, ten)
    expect(read.complete).toBe(false)
    expect(read.problems).toContain(problem)
  })
  test('questions may differ in their number of choices', () => {
    expect(readLetters('BE', [2, 5]).complete).toBe(true)
    expect(readLetters('CE', [2, 5]).problems).toEqual(['Question 1: C is not a choice. Type A to B.'])
  })
  test('written and read again they are the same', () => {
    const answers = fc.array(fc.option(fc.constantFrom('A', 'B', 'C', 'D'), { nil: undefined }), {
      minLength: 1,
      maxLength: 40,
    })
    fc.assert(
      fc.property(answers, (letters) =>
        expect(
          readLetters(
            writeLetters(letters),
            letters.map(() => 4),
          ).letters,
        ).toEqual(letters),
      ),
    )
  })
})

const question = (
  position: number,
  key: string | null,
  points = '1',
  standardId: string | null = null,
): ScoredQuestion => ({ id: `q${position}`, position, key, choices: 4, points, standardId })
const sheet = (studentId: string, letters: string): Sheet => ({
  studentId,
  answers: new Map([...letters].flatMap((l, i) => (l === '.' ? [] : [[`q${i + 1}`, l] as const]))),
})
const thresholds = { secureFrom: '80', nearlyFrom: '60' }

describe('findings', () => {
  const questions = [
    question(1, 'A', '1', 'heat'),
    question(2, 'B', '1', 'heat'),
    question(3, 'C', '2', 'ice'),
    question(4, 'D', '1', 'ice'),
  ]
  const sheets = [sheet('abara', 'ABCD'), sheet('bell', 'ABC.'), sheet('cast', 'AACD'), sheet('dun', 'BBBB')]
  const f = readFindings(questions, sheets, thresholds)

  test('scores every sheet: full points for the key, none otherwise', () => {
    expect(f.results.map((r) => [r.studentId, r.points, r.level])).toEqual([
      ['abara', '5', 'secure'],
      ['bell', '4', 'secure'],
      ['cast', '4', 'secure'],
      ['dun', '1', 'not yet'],
    ])
  })
  test('mean, median and spread, worked by hand', () => {
    expect(f.summary).toMatchObject({ assessed: 4, mean: 3.5, median: 4, lowest: 1, highest: 5 })
    // Deviations 1.5, 0.5, 0.5, -2.5: squares 2.25 + 0.25 + 0.25 + 6.25 = 9, over 3.
    expect(f.summary.deviation).toBeCloseTo(Math.sqrt(3), 12)
  })
  test('levels and the students behind them', () => {
    expect(f.byLevel).toEqual({ secure: ['abara', 'bell', 'cast'], nearly: [], 'not yet': ['dun'] })
  })
  test('per standard: its own questions only', () => {
    expect(
      f.standards.map((s) => [
        s.standardId,
        s.questionPositions,
        s.byLevel.secure,
        s.byLevel.nearly,
        s.byLevel['not yet'],
      ]),
    ).toEqual([
      ['heat', [1, 2], ['abara', 'bell'], [], ['cast', 'dun']],
      ['ice', [3, 4], ['abara', 'cast'], ['bell'], ['dun']],
    ])
  })
  test('per question: share of points and who chose what, left out included', () => {
    expect(f.questions.map((q) => q.share)).toEqual([0.75, 0.75, 0.75, 0.5])
    expect(f.questions[3]?.chosenBy.get('')).toEqual(['bell'])
    expect(f.questions[0]?.chosenBy.get('B')).toEqual(['dun'])
    expect([...(f.questions[0]?.chosenBy.keys() ?? [])]).toEqual(['A', 'B', 'C', 'D', ''])
  })
  test('a question without a key scores nothing; no sheets, no figures', () => {
    expect(scoreSheet([question(1, null)], sheet('a', 'A'), thresholds).points).toBe('0')
    expect(readFindings(questions, [], thresholds).summary).toEqual({
      assessed: 0,
      mean: undefined,
      median: undefined,
      deviation: undefined,
      lowest: undefined,
      highest: undefined,
    })
    expect(readFindings(questions, [], thresholds).questions[0]?.share).toBeUndefined()
  })
  test('one result has no spread; an even number has its median between', () => {
    expect(summarise([7])).toMatchObject({ mean: 7, median: 7, deviation: undefined })
    expect(summarise([3, 1, 2, 10]).median).toBe(2.5)
  })
  test('a level begins exactly at its threshold', () => {
    expect([
      levelOf(800, 1000, thresholds),
      levelOf(799, 1000, thresholds),
      levelOf(600, 1000, thresholds),
      levelOf(599, 1000, thresholds),
      levelOf(0, 0, thresholds),
    ]).toEqual(['secure', 'nearly', 'nearly', 'not yet', 'not yet'])
  })
  test('every student is in one level, and every answer in one choice', () => {
    const anySheets = fc.array(fc.stringMatching(/^[ABCD.]{4}$/), { maxLength: 30 })
    fc.assert(
      fc.property(anySheets, (texts) => {
        const read = readFindings(
          questions,
          texts.map((t, i) => sheet(`s${i}`, t)),
          thresholds,
        )
        expect(Object.values(read.byLevel).flat()).toHaveLength(texts.length)
        for (const q of read.questions) expect([...q.chosenBy.values()].flat()).toHaveLength(texts.length)
        for (const s of read.standards) expect(Object.values(s.byLevel).flat()).toHaveLength(texts.length)
      }),
    )
  })
})
