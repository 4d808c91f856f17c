import type { Row, SortingState } from '@tanstack/react-table'
import type { Column, Narrowing } from './column'

/** How the table's own word for an order (`name`, `-name`) is said to the package. */
export const sortOf = (sort: string): SortingState =>
  sort ? [{ id: sort.replace(/^-/, ''), desc: sort.startsWith('-') }] : []

const names = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

/** Compares two rows by a column: numbers as numbers, texts as names are listed. */
export function compare<T>(column: Column<T>) {
  return (a: Row<T>, b: Row<T>) => {
    const [x, y] = [column.value?.(a.original), column.value?.(b.original)]
    if (typeof x === 'number' && typeof y === 'number') return x - y
    return names.compare(String(x ?? ''), String(y ?? ''))
  }
}

/** Only the rows that match, the best first; all of them for no text. */
export function narrowed<T>(
  rows: readonly T[],
  filter: Narrowing<T> | undefined,
  text: string,
): readonly T[] {
  if (!filter || text.trim() === '') return rows
  return rows
    .map((row) => ({ row, rank: filter.rank(row, text) }))
    .filter((r): r is { row: T; rank: number } => r.rank !== undefined)
    .sort((a, b) => a.rank - b.rank)
    .map((r) => r.row)
}
