import fc from 'fast-check'
import { readFindings, resultOf, summarise, type Attempt } from './findings'
import { levelOf, unreachable, usualLevels, otherMeasure, type Level } from './levels'
import { keyPoints, type AskedQuestion, type Counted } from './scoring'

const question = (
  position: number,
  right: string | null,
  points = '1',
  standardIds: readonly string[] = [],
): AskedQuestion => ({
  id: `q${position}`,
  position,
  kind: 'one choice',
  content: { choices: ['A', 'B', 'C', 'D'], right },
  points,
  counts: 'keyed',
  standardIds,
})
const questions = [
  question(1, 'A', '1', ['heat']),
  question(2, 'B', '1', ['heat']),
  question(3, 'C', '2', ['ice']),
  question(4, 'D', '1', ['ice']),
]
const attempt = (
  studentId: string,
  letters: string,
  asked: readonly AskedQuestion[] = questions,
): Attempt => ({
  studentId,
  responses: new Map(
    [...letters].flatMap((letter, i): (readonly [string, Counted])[] => {
      const q = asked[i]
      return letter === '.' || !q ? [] : [[q.id, { value: letter, points: keyPoints(q, letter) }]]
    }),
  ),
})

describe('findings', () => {
  const attempts = [
    attempt('abara', 'ABCD'),
    attempt('bell', 'ABC.'),
    attempt('cast', 'AACD'),
    attempt('dun', 'BBBB'),
  ]
  const f = readFindings(questions, attempts, usualLevels)

  test('adds up every attempt: full points for the key, none otherwise', () => {
    expect(f.results.map((r) => [r.studentId, r.points, usualLevels[r.level]?.name])).toEqual([
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
  test('levels and the students behind them, the highest first', () => {
    expect(f.byLevel).toEqual([['abara', 'bell', 'cast'], [], ['dun']])
  })
  test('per standard: its own questions only, from its own thresholds where it has any', () => {
    expect(f.standards.map((s) => [s.standardId, s.questionPositions, s.byLevel])).toEqual([
      ['heat', [1, 2], [['abara', 'bell'], [], ['cast', 'dun']]],
      ['ice', [3, 4], [['abara', 'cast'], ['bell'], ['dun']]],
    ])
    const kinder: readonly Level[] = [
      { name: 'secure', from: { points: '2' } },
      { name: 'not yet', from: null },
    ]
    const own = readFindings(questions, attempts, usualLevels, (id) => (id === 'ice' ? kinder : usualLevels))
    expect(own.standards[1]?.byLevel).toEqual([['abara', 'bell', 'cast'], ['dun']])
  })
  test('a question with several standards counts fully in each', () => {
    const both = [question(1, 'A', '1', ['heat', 'ice'])]
    const read = readFindings(both, [attempt('abara', 'A', both)], usualLevels)
    expect(read.standards.map((s) => s.byLevel[0])).toEqual([['abara'], ['abara']])
  })
  test('per question: share of points, who answered what, who left it out, who is without its points', () => {
    expect(f.questions.map((q) => q.share)).toEqual([0.75, 0.75, 0.75, 0.5])
    expect(f.questions[3]).toMatchObject({ leftOut: ['bell'], without: ['bell', 'dun'] })
    expect(f.questions[0]?.groups.map((g) => [g.label, g.students])).toEqual([
      ['A', ['abara', 'bell', 'cast']],
      ['B', ['dun']],
      ['C', []],
      ['D', []],
    ])
  })
  test('an answer without points is not marked yet, and its total not final', () => {
    const essay: AskedQuestion = { ...question(5, null, '4'), kind: 'written', content: {} }
    const asked = [...questions, essay]
    const unmarked: Attempt = {
      studentId: 'abara',
      responses: new Map([...attempt('abara', 'ABCD').responses, ['q5', { value: '', points: undefined }]]),
    }
    expect(resultOf(asked, unmarked, usualLevels)).toMatchObject({ points: '5', unmarked: 1 })
    const read = readFindings(asked, [unmarked, attempt('bell', 'ABC.')], usualLevels)
    // Nobody who is marked has earned any of it; who is not marked does not count.
    expect(read.questions[4]).toMatchObject({ share: 0, unmarked: ['abara'], leftOut: ['bell'] })
  })
  test('a question dropped for all is worth nothing; one given to all adds its points to everybody', () => {
    const dropped = questions.map((q) => (q.id === 'q3' ? { ...q, counts: 'dropped' as const } : q))
    expect(resultOf(dropped, attempt('abara', 'ABCD'), usualLevels)).toMatchObject({
      points: '3',
      percent: 100,
    })
    const given = questions.map((q) => (q.id === 'q3' ? { ...q, counts: 'given' as const } : q))
    expect(resultOf(given, attempt('dun', 'BBBB'), usualLevels).points).toBe('3')
    expect(resultOf(given, attempt('none', '....'), usualLevels)).toMatchObject({ points: '2', unmarked: 0 })
  })
  test('no attempts, no figures', () => {
    expect(readFindings(questions, [], usualLevels).summary).toEqual({
      assessed: 0,
      mean: undefined,
      median: undefined,
      deviation: undefined,
      lowest: undefined,
      highest: undefined,
    })
    expect(readFindings(questions, [], usualLevels).questions[0]?.share).toBeUndefined()
  })
  test('one result has no spread; an even number has its median between', () => {
    expect(summarise([7])).toMatchObject({ mean: 7, median: 7, deviation: undefined })
    expect(summarise([3, 1, 2, 10]).median).toBe(2.5)
  })
  test('every student is in one level, and every answer in one group', () => {
    const anyAttempts = fc.array(fc.stringMatching(/^[ABCD.]{4}$/), { maxLength: 30 })
    fc.assert(
      fc.property(anyAttempts, (texts) => {
        const read = readFindings(
          questions,
          texts.map((t, i) => attempt(`s${i}`, t)),
          usualLevels,
        )
        expect(read.byLevel.flat()).toHaveLength(texts.length)
        for (const q of read.questions)
          expect([...q.groups.flatMap((g) => g.students), ...q.leftOut]).toHaveLength(texts.length)
        for (const s of read.standards) expect(s.byLevel.flat()).toHaveLength(texts.length)
      }),
    )
  })
})

describe('levels', () => {
  const name = (points: number, most: number) => usualLevels[levelOf(points, most, usualLevels)]?.name
  test('a level begins exactly at its threshold', () => {
    expect([name(800, 1000), name(799, 1000), name(600, 1000), name(599, 1000), name(0, 0)]).toEqual([
      'secure',
      'nearly',
      'nearly',
      'not yet',
      'not yet',
    ])
  })
  test('a threshold is read in the other measure beside it', () => {
    expect(otherMeasure({ percent: '80' }, 1600)).toBe('12.8 points')
    expect(otherMeasure({ points: '5' }, 1600)).toBe('31.3%')
    expect(otherMeasure({ points: '5' }, 0)).toBe('')
  })
  test('levels that nobody can reach with these points are found', () => {
    // Four questions of 1, 1, 2 and 1: 0 to 5 points. From 80% is 4, from 60% is 3.
    expect(unreachable(usualLevels, questions)).toEqual([])
    // Between 81% and 99% there is no whole number of points.
    const narrow: readonly Level[] = [
      { name: 'all', from: { percent: '99' } },
      { name: 'nearly all', from: { percent: '81' } },
      { name: 'fewer', from: null },
    ]
    expect(unreachable(narrow, questions)).toEqual([1])
    expect(
      unreachable(
        [
          { name: 'six', from: { points: '6' } },
          { name: 'fewer', from: null },
        ],
        questions,
      ),
    ).toEqual([0])
    // Points in parts can be any number.
    const essay: AskedQuestion = { ...question(5, null, '4'), kind: 'written', content: {} }
    expect(unreachable(narrow, [...questions, essay])).toEqual([])
    expect(
      unreachable(
        [
          { name: 'ten', from: { points: '10' } },
          { name: 'fewer', from: null },
        ],
        [...questions, essay],
      ),
    ).toEqual([0])
  })
})
