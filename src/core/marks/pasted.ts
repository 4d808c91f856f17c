import { comparableName, spokenName } from '@/core/people/names'

/** A student whose row something is pasted into. */
export interface PasteRow {
  /** As lists sort it: `Abara, Tobias`. */
  readonly name: string
  readonly number: number | null
}

/** A column that something is pasted into, with how a text is read there. */
export interface PasteColumn<V> {
  readonly name: string
  readonly read: (
    text: string,
  ) => { readonly ok: true; readonly value: V } | { readonly ok: false; readonly problem: string }
}

interface PastedCell<V> {
  /** Places in the lists of students and columns. */
  readonly row: number
  readonly column: number
  readonly value: V
}

export type Pasted<V> =
  | { readonly ok: true; readonly cells: readonly PastedCell<V>[]; readonly isByName: boolean }
  | { readonly ok: false; readonly problems: readonly string[] }

interface Asked<V> {
  readonly students: readonly PasteRow[]
  /** The columns from the selected cell to the right; those that take nothing end them. */
  readonly columns: readonly PasteColumn<V>[]
  /** The row of the selected cell, and how many rows are meant from there. */
  readonly from: number
  readonly rows: number
}

/**
 * The lines of what was copied. Spreadsheets end the last line with a break, which begins no line of its own; but a
 * column whose last cell is empty ends with one as well.
 */
function linesOf(text: string, expected: number): readonly (readonly string[])[] {
  const lines = text.replace(/\r\n?/g, '\n').split('\n')
  const own = lines.length > expected && lines.at(-1) === '' ? lines.slice(0, -1) : lines
  return own.map((line) => line.split('\t').map((cell) => cell.trim()))
}

const refused = (...problems: string[]) => ({ ok: false, problems }) as const
const nothing = 'Nothing was pasted.'

/** Which students a name or a number can mean. */
function meant(text: string, students: readonly PasteRow[]): readonly number[] {
  const asked = comparableName(text)
  return students.flatMap(({ name, number }, row) =>
    String(number) === text || comparableName(name) === asked || comparableName(spokenName(name)) === asked
      ? [row]
      : [],
  )
}

/**
 * The rows that lines are for, where each begins with the name or the number of a student, in whatever order.
 * Undefined where the first cells are no names: then lines follow each other from the selected cell down.
 */
function rowsByName(
  lines: readonly (readonly string[])[],
  students: readonly PasteRow[],
): { readonly rows: readonly number[] } | { readonly problems: readonly string[] } | undefined {
  if (lines.some((line) => line.length < 2)) return undefined
  const found = lines.map(([first = '']) => ({ first, rows: meant(first, students) }))
  const isNames = found.filter((f) => f.rows.length > 0).length * 2 > found.length
  if (!isNames) return undefined
  const rows = found.map((f) => f.rows[0] ?? -1)
  const problems = [
    ...found
      .filter((f) => f.rows.length === 0)
      .map((f) => `${f.first || 'An empty name'} is not in this class.`),
    ...found
      .filter((f) => f.rows.length > 1)
      .map((f) => `${f.first} could be ${f.rows.length} students. Paste their numbers in place of names.`),
    ...found
      .filter((f, i) => f.rows.length === 1 && rows.indexOf(f.rows[0] ?? -1) < i)
      .map((f) => `${f.first} is there twice.`),
  ]
  return problems.length > 0 ? { problems } : { rows }
}

/**
 * Reads what was copied from a spreadsheet: one line a student, in the order of the rows from the selected cell down, or
 * with names or numbers in front, in any order; one cell a column from the selected one to the right. Everything must be
 * readable; otherwise nothing is taken.
 */
export function readPasted<V>(text: string, { students, columns, from, rows }: Asked<V>): Pasted<V> {
  const lines = linesOf(text, rows)
  // Plain numbers may be scores as well as numbers of students: where they can be read as scores, they are.
  const areScores =
    lines.length === rows &&
    lines.every(([first = '']) => /^[\d.,]*$/.test(first) && columns[0]?.read(first).ok)
  const byName = areScores ? undefined : rowsByName(lines, students)
  if (byName && 'problems' in byName) return refused(...byName.problems, nothing)
  const values = byName ? lines.map((line) => line.slice(1)) : lines
  if (!byName && lines.length !== rows)
    return refused(
      `${lines.length} values were copied, but there are ${rows} students from the selected cell down. ` +
        `${nothing} Copy one value for each student, with the names in front where the order is another one.`,
    )
  const width = Math.max(...values.map((line) => line.length))
  if (width > columns.length)
    return refused(
      `${width} columns were copied, but only ${columns.length === 1 ? '1 can' : `${columns.length} can`} be entered from here to the right. ${nothing}`,
    )
  const cells: PastedCell<V>[] = []
  const problems: string[] = []
  values.forEach((line, i) => {
    const row = byName ? (byName.rows[i] ?? 0) : from + i
    line.forEach((cell, column) => {
      const read = columns[column]?.read(cell)
      if (read?.ok) cells.push({ row, column, value: read.value })
      else {
        const where = width > 1 ? `, ${columns[column]?.name ?? ''}` : ''
        problems.push(`${spokenName(students[row]?.name ?? '')}${where}: ${read?.problem ?? ''}`)
      }
    })
  })
  return problems.length > 0
    ? refused(...problems, nothing)
    : { ok: true, cells, isByName: byName !== undefined }
}
