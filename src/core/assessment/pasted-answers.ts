import { comparableName, spokenName } from '@/core/people/names'
import { kindOf, type Keyed } from './kinds'

interface Student {
  readonly studentId: string
  /** The sort name. */
  readonly name: string
  readonly number: string | null
}

export interface PastedAnswers {
  /** A line of answers for each student, as it would be typed. */
  readonly lines: ReadonlyMap<string, string>
  /** Why nothing is taken over, each naming its row; empty when all is well. */
  readonly problems: readonly string[]
}

/** Finds a student by name, as it is sorted or as it is said, or by number; undefined where nobody or more than one fits. */
function finder(students: readonly Student[]) {
  const found = new Map<string, Student | 'several'>()
  const add = (text: string, student: Student) => {
    const key = comparableName(text)
    const known = found.get(key)
    found.set(key, known && known !== student ? 'several' : student)
  }
  for (const student of students) {
    add(student.name, student)
    add(spokenName(student.name), student)
    if (student.number) add(student.number, student)
  }
  return (text: string) => found.get(comparableName(text))
}

/** Cells of a table, one for each question, as a line. */
const lineOf = (cells: readonly string[], questions: readonly Keyed[]): string =>
  questions
    .map(({ kind }, i) => {
      const text = (cells[i] ?? '').trim()
      return text === '' || text === '.' ? '.' : (kindOf(kind).cell?.(text) ?? text)
    })
    .join(' ')

/**
 * Reads what was copied from a spreadsheet: rows with a name or number first, then one cell with all answers or one for
 * each question; or a single column, which is taken in the order of the list from the chosen student on.
 * @param from the student in whose row it was pasted
 */
export function readPastedAnswers(
  text: string,
  students: readonly Student[],
  questions: readonly Keyed[],
  from: string,
): PastedAnswers {
  const rows = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n+$/, '')
    .split('\n')
    .map((row) => row.split('\t').map((cell) => cell.trim()))
  const find = finder(students)
  const named = rows.map(([first = '']) => find(first))
  const lines = new Map<string, string>()
  const problems: string[] = []
  if (named.every((student) => student === undefined)) {
    if (rows.some((row) => row.length > 1))
      return { lines, problems: ['The first column must hold names or numbers of these students.'] }
    const start = students.findIndex((s) => s.studentId === from)
    if (start + rows.length > students.length)
      return {
        lines,
        problems: [
          `${rows.length} rows do not fit from here on: ${students.length - start} students are left.`,
        ],
      }
    rows.forEach(([line = ''], i) => lines.set(students[start + i]?.studentId ?? '', line))
    return { lines, problems }
  }
  rows.forEach((row, i) => {
    const student = named[i]
    const [first = '', ...others] = row
    if (student === undefined) {
      // A head above names is none of them.
      if (i > 0 || rows.length === 1)
        problems.push(`Row ${i + 1}: ${first || 'no name'} is none of these students.`)
      return
    }
    if (student === 'several')
      return problems.push(`Row ${i + 1}: more than one student is called ${first}. Use their numbers.`)
    // A name and a number beside it are the same student.
    const rest = others.length > 1 && find(others[0] ?? '') === student ? others.slice(1) : others
    if (lines.has(student.studentId)) return problems.push(`Row ${i + 1}: ${first} appears twice.`)
    if (rest.length !== 1 && rest.length !== questions.length)
      return problems.push(`Row ${i + 1}: ${rest.length} answers for ${questions.length} questions.`)
    lines.set(
      student.studentId,
      rest.length === 1 && questions.length !== 1 ? (rest[0] ?? '') : lineOf(rest, questions),
    )
  })
  return problems.length > 0 ? { lines: new Map(), problems } : { lines, problems }
}
