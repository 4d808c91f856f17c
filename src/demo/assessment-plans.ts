import type { Keyed } from '@/core/assessment/kinds'

/** A question as it is planned: what it asks, what it is worth, its standard. */
export interface PlannedQuestion {
  readonly asked: Keyed
  readonly points: number
  readonly standard?: string
}

export interface PlannedAssessment {
  readonly className: string
  readonly name: string
  /** School days before today. */
  readonly daysAgo: number
  readonly tags?: readonly string[]
  /** What it is a copy of, with others: one series. */
  readonly series?: string
  readonly questions: readonly PlannedQuestion[]
  /** Share of written answers that are marked. */
  readonly marked?: number
  readonly description?: string
  readonly shares?: readonly PlannedShare[]
  /**
   * Shown in the class's gradebook by learning standards: beside the marks, with a column that says how far the student
   * is.
   */
  readonly inGradebook?: { readonly category: string; readonly column: string }
}

/** With whom an assessment is shared, and what they may do beside reading it. */
export interface PlannedShare {
  readonly with: 'school' | 'course' | 'year group' | { readonly teacherOf: string }
  readonly may: readonly ('see_results' | 'give' | 'edit')[]
}

const letters = 'ABCDEFGHIJ'
const one = (
  right: string,
  { of = 4, points = 1, standard }: { of?: number; points?: number; standard?: string } = {},
): PlannedQuestion => ({
  asked: { kind: 'one choice', content: { choices: [...letters.slice(0, of)], right } },
  points,
  standard,
})
const line = (key: string, standards: readonly string[] = []): readonly PlannedQuestion[] =>
  [...key].map((right, i) => one(right, { standard: standards[i % Math.max(1, standards.length)] }))
const several = (
  right: string,
  rule: 'all or nothing' | 'each right less each wrong',
  points: number,
  standard?: string,
): PlannedQuestion => ({
  asked: { kind: 'several choices', content: { choices: [...letters.slice(0, 5)], right: [...right], rule } },
  points,
  standard,
})
const truth = (right: boolean, standard?: string): PlannedQuestion => ({
  asked: { kind: 'true or false', content: { right } },
  points: 1,
  standard,
})
const numeric = (
  right: string,
  tolerance: string,
  unit: string | null,
  { points = 1, percent = false, standard }: { points?: number; percent?: boolean; standard?: string } = {},
): PlannedQuestion => ({
  asked: {
    kind: 'number',
    content: { right, tolerance, toleranceIn: percent ? 'percent' : 'units', unit },
  },
  points,
  standard,
})
const word = (accepted: readonly string[], points = 1, standard?: string): PlannedQuestion => ({
  asked: {
    kind: 'short text',
    content: { accepted, matters: { case: false, accents: false, spaces: false } },
  },
  points,
  standard,
})
const prose = (points: number, standard?: string): PlannedQuestion => ({
  asked: { kind: 'written', content: {} },
  points,
  standard,
})

/** The school's own short frameworks: each standard under its strand. */
export const frameworks: readonly {
  readonly name: string
  readonly subject: string
  readonly strands: readonly (readonly [
    statement: string,
    standards: readonly (readonly [string, string])[],
  ])[]
}[] = [
  {
    name: 'Science at Wrackline',
    subject: 'Science',
    strands: [
      [
        'Heat, water and ice',
        [
          ['SCI.7.01', 'Describes changes of state and the temperatures at which they happen'],
          ['SCI.7.02', 'Explains floating and freezing by density and salt'],
          ['SCI.7.03', 'Explains how heat moves through water and ice'],
        ],
      ],
      [
        'Working scientifically',
        [
          ['SCI.8.01', 'Plans a fair test and names its variables'],
          ['SCI.8.02', 'Reads graphs of measurements and describes the trend'],
        ],
      ],
    ],
  },
  {
    name: 'English at Wrackline',
    subject: 'English',
    strands: [
      [
        'Reading',
        [
          ['ENG.7.01', 'Finds what a text says and quotes the line'],
          ['ENG.7.02', 'Explains what a word means from the words around it'],
          ['ENG.7.03', 'Says what a character wants and how the text shows it'],
        ],
      ],
      ['Writing', [['ENG.7.04', 'Writes a paragraph that keeps to one point']]],
    ],
  },
]

const reading = ['ENG.7.01', 'ENG.7.02']
const daily = (page: number, daysAgo: number, key: string): PlannedAssessment => ({
  className: '7 English A',
  name: `Island tales, page ${page}`,
  daysAgo,
  tags: ['island tales'],
  series: 'Island tales',
  questions: line(key, reading),
})

/** Assessments of several subjects and year groups; a series of short daily ones; one with every kind of question. */
export const plans: readonly PlannedAssessment[] = [
  {
    className: '8 Science A',
    name: 'Measuring in the harbour',
    daysAgo: 3,
    tags: ['fieldwork'],
    description: 'One question of every kind, with measurements taken at the quay.',
    shares: [
      { with: 'course', may: ['see_results', 'give'] },
      { with: { teacherOf: '9 History A' }, may: ['see_results', 'give', 'edit'] },
    ],
    questions: [
      one('B', { standard: 'SCI.8.01' }),
      one('D', { of: 5, standard: 'SCI.8.01' }),
      several('AC', 'all or nothing', 2, 'SCI.8.01'),
      several('BDE', 'each right less each wrong', 3, 'SCI.8.01'),
      truth(true, 'SCI.8.02'),
      truth(false, 'SCI.8.02'),
      numeric('3.5', '0.1', 'm', { points: 2, standard: 'SCI.8.02' }),
      numeric('1200', '5', 'kg', { percent: true, points: 2, standard: 'SCI.8.02' }),
      word(['control', 'control variable'], 1, 'SCI.8.01'),
      word(['tide', 'the tide'], 1, 'SCI.8.02'),
      prose(4, 'SCI.8.02'),
    ],
    marked: 0.7,
  },
  daily(12, 6, 'BA'),
  daily(14, 5, 'CD'),
  daily(15, 4, 'AD'),
  daily(17, 3, 'BC'),
  { ...daily(18, 2, 'DA'), inGradebook: { category: 'Written work', column: 'Reading' } },
  {
    className: '7 Mathematics B',
    name: 'Fractions of a cargo',
    daysAgo: 9,
    questions: [
      numeric('3/4', '0', null, { points: 2 }),
      numeric('0.5', '0', null),
      numeric('12', '0', 'crates', { points: 2 }),
      truth(true),
      ...line('BDAC'),
    ],
  },
  {
    className: '9 History A',
    name: 'Harbours and lighthouses',
    daysAgo: 12,
    tags: ['sources'],
    description: 'Goes with the visit to the harbour museum.',
    shares: [{ with: 'school', may: [] }],
    questions: [...line('CABDDBCA'), word(['keeper', 'lighthouse keeper'])],
  },
  {
    className: '10 Biology A',
    name: 'Cells',
    daysAgo: 7,
    tags: ['microscope'],
    questions: [...line('BACDBDCAABCD'), several('BD', 'all or nothing', 2)],
  },
  {
    className: '11 Chemistry B',
    name: 'Solutions',
    daysAgo: 10,
    tags: ['practical'],
    shares: [{ with: { teacherOf: '8 Science A' }, may: ['see_results'] }],
    questions: [...line('CDABBC'), numeric('25', '0.5', 'ml', { points: 3 })],
  },
  {
    className: '9 English A',
    name: 'Letters home',
    daysAgo: 8,
    questions: [...line('ABDC'), prose(6), prose(4)],
    marked: 1,
  },
  {
    className: '4 Mathematics A',
    name: 'Counting the catch',
    daysAgo: 4,
    questions: [numeric('48', '0', null), numeric('7', '0', null), truth(false), ...line('ACB')],
  },
  {
    className: '6 Geography A',
    name: 'Coasts',
    daysAgo: 11,
    questions: [...line('DBCAAD'), truth(true), word(['erosion'])],
  },
]
