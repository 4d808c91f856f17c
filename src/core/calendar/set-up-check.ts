/** What enrolments in classes are counted by. */
export const countedBy = ['subject', 'class', 'teacher', 'year group', 'term'] as const
export type CountedBy = (typeof countedBy)[number]

/** One class in one term with one of its teachers: the smallest thing the table counts. */
export interface ClassCount {
  readonly classId: string
  readonly class: string
  readonly subject: string
  readonly yearGroup: string
  readonly term: string
  /** Empty for a class without a teacher. */
  readonly teacher: string
  readonly students: number
}

export interface Crossed {
  /** Titles of the rows and of the columns, in the order in which they first come. */
  readonly rows: readonly string[]
  readonly columns: readonly string[]
  /** Enrolments by row and column; undefined where there is no class. */
  readonly cells: readonly (readonly (number | undefined)[])[]
  readonly rowTotals: readonly number[]
  readonly columnTotals: readonly number[]
  readonly total: number
}

const titleOf = (c: ClassCount, by: CountedBy): string => {
  switch (by) {
    case 'subject':
      return c.subject
    case 'class':
      return c.class
    case 'teacher':
      return c.teacher || 'no teacher'
    case 'year group':
      return c.yearGroup
    case 'term':
      return c.term
  }
}

/** The sum of students over classes; a class that two of its teachers or terms bring in counts once in each cell. */
function sum(counts: readonly ClassCount[]): number {
  const seen = new Map(counts.map((c) => [`${c.classId} ${c.term}`, c.students]))
  return [...seen.values()].reduce((a, n) => a + n, 0)
}

/**
 * Enrolments in classes as a table with two headings. A student in three classes is three enrolments, and one in each
 * term of a class; a class with two teachers is counted with each of them and once in the totals.
 */
export function crossed(counts: readonly ClassCount[], down: CountedBy, across: CountedBy): Crossed {
  const titles = (by: CountedBy) => [...new Set(counts.map((c) => titleOf(c, by)))]
  const [rows, columns] = [titles(down), titles(across)]
  const at = new Map<string, ClassCount[]>()
  const add = (key: string, c: ClassCount) => {
    const list = at.get(key)
    if (list) list.push(c)
    else at.set(key, [c])
  }
  for (const c of counts) {
    const [row, column] = [titleOf(c, down), titleOf(c, across)]
    add(JSON.stringify([row, column]), c)
    add(JSON.stringify([row, null]), c)
    add(JSON.stringify([null, column]), c)
  }
  const of = (row: string | null, column: string | null) => at.get(JSON.stringify([row, column]))
  return {
    rows,
    columns,
    cells: rows.map((row) =>
      columns.map((column) => {
        const there = of(row, column)
        return there && sum(there)
      }),
    ),
    rowTotals: rows.map((row) => sum(of(row, null) ?? [])),
    columnTotals: columns.map((column) => sum(of(null, column) ?? [])),
    total: sum(counts),
  }
}
