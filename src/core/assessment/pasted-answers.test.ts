import type { Keyed } from './kinds'
import { readPastedAnswers } from './pasted-answers'
import { readAnswers } from './typed'

const students = [
  { studentId: 'a', name: 'Aldana, Kaya', number: '20311' },
  { studentId: 'b', name: 'Borg, Kamil', number: '20312' },
  { studentId: 'c', name: 'Kestrel, Emeka', number: '20313' },
  { studentId: 'd', name: 'Kestrel, Emeka', number: '20314' },
]
const questions: readonly (Keyed & { readonly points: string })[] = [
  { kind: 'one choice', content: { choices: ['A', 'B'], right: 'A' }, points: '1' },
  {
    kind: 'several choices',
    content: { choices: ['A', 'B', 'C'], right: ['A', 'C'], rule: 'all or nothing' },
    points: '1',
  },
  { kind: 'true or false', content: { right: true }, points: '1' },
  { kind: 'number', content: { right: '3.5', tolerance: '0', toleranceIn: 'units', unit: 'm' }, points: '1' },
  {
    kind: 'short text',
    content: { accepted: ['sea ice'], matters: { case: false, accents: false, spaces: true } },
    points: '1',
  },
  { kind: 'written', content: {}, points: '4' },
]
const paste = (text: string, from = 'a') => readPastedAnswers(text, students, questions, from)

test('a table with names in another order and a head is matched by name or number, cell by cell', () => {
  const { lines, problems } = paste(
    'Name\t1\t2\t3\t4\t5\t6\nKamil Borg\tb\tA, C\tFALSE\t3.5 m\tsea ice\t2,5\n20311\tA\tac\tTrue\t\tSea "ice"\t?\n',
  )
  expect(problems).toEqual([])
  expect(lines.get('b')).toBe('b A+C F "3.5 m" "sea ice" 2,5')
  for (const line of lines.values()) expect(readAnswers(line, questions).problems).toEqual([])
  expect(readAnswers(lines.get('a') ?? '', questions).entries.map((e) => e?.value)).toEqual([
    'A',
    ['A', 'C'],
    true,
    undefined,
    "Sea 'ice'",
    '',
  ])
})
test('a name with its number beside it is one student; one cell is a whole line', () => {
  expect(paste('Aldana, Kaya\t20311\tA B T 3 "x" 1').lines.get('a')).toBe('A B T 3 "x" 1')
})
test('a single column goes down from where it is pasted', () => {
  expect([...paste('A B T 3 "x" 1\r\nB C F 4 "y" ?', 'b').lines]).toEqual([
    ['b', 'A B T 3 "x" 1'],
    ['c', 'B C F 4 "y" ?'],
  ])
})
test.each([
  ['A\tB\nB\tB', 'The first column must hold names or numbers'],
  ['Kamil Borg\tA\nIlse Marsh\tB', 'Row 2: Ilse Marsh is none of these students'],
  ['Emeka Kestrel\tA', 'more than one student is called Emeka Kestrel'],
  ['20311\tA\n20311\tB', 'Row 2: 20311 appears twice'],
  ['20311\tA\tB', 'Row 1: 2 answers for 6 questions'],
  ['A\nA\nA\nA\nA', '5 rows do not fit from here on'],
])('%j: %s, and nothing is taken over', (text, problem) => {
  const { lines, problems } = paste(text)
  expect(problems.join(' ')).toContain(problem)
  expect(lines.size).toBe(0)
})
