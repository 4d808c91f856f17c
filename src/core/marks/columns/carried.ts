import { sameName } from '@/core/same-name'
import { isCalculated, type Column, type Operand, type Part } from './column'

/** Where columns are carried to. */
export interface Destination<C> {
  /** The columns that are there; one of the same name in the same term stays as it is. */
  readonly own: readonly Column[]
  /** Which term there stands for one of here; none where there is none. */
  readonly termOf: (termId: string, of: Column) => string | undefined
  /** What a part that is not a column reads there; none where there is nothing like it. */
  readonly operandOf: (
    operand: Exclude<Operand, { of: 'column' }>,
    of: Column,
  ) => Exclude<Operand, { of: 'column' }> | undefined
  /** A new column there. */
  readonly create: (column: Column) => C
}

/**
 * Columns as another gradebook gets them: those entered by hand with their choices, calculated ones where all that they
 * read is there too.
 * @returns the new columns, each after those that it reads, and the names of those that stay behind
 */
export function carriedColumns<C>(
  columns: readonly Column[],
  { own, termOf, operandOf, create }: Destination<C>,
  newId: () => string,
): { readonly columns: readonly C[]; readonly left: readonly string[] } {
  const made: C[] = []
  /** The identifier there of a column of here; null where it stays behind. */
  const placed = new Map<string, string | null>()
  function partOf({ operand, weight }: Part, of: Column): Part | undefined {
    if (operand.of !== 'column') {
      const there = operandOf(operand, of)
      return there && { operand: there, weight }
    }
    const read = columns.find((c) => c.id === operand.id)
    const id = read && place(read)
    return id ? { operand: { of: 'column', id }, weight } : undefined
  }
  function place(column: Column): string | null {
    const known = placed.get(column.id)
    if (known !== undefined) return known
    const put = (id: string | null) => {
      placed.set(column.id, id)
      return id
    }
    // Where a circle stood in the data it would be walked for ever.
    put(null)
    const termId = column.termId === null ? null : termOf(column.termId, column)
    if (termId === undefined) return null
    const there = own.find((c) => c.termId === termId && sameName(c.name) === sameName(column.name))
    if (there) return put(there.id)
    const id = newId()
    if (!isCalculated(column)) {
      made.push(create({ ...column, id, termId }))
      return put(id)
    }
    const parts = column.parts.map((part) => partOf(part, column))
    const whole = parts.filter((part) => part !== undefined)
    if (whole.length < parts.length) return null
    made.push(create({ ...column, id, termId, parts: whole }))
    return put(id)
  }
  for (const column of columns) place(column)
  return { columns: made, left: columns.filter((c) => placed.get(c.id) === null).map((c) => c.name) }
}
