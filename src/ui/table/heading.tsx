import type { Column } from './column'

/** The head of a column, by which the list is sorted where that is possible. */
export function Heading<T>({
  column,
  sort,
  onSort,
}: {
  column: Column<T>
  sort: string
  onSort?: (sort: string) => void
}) {
  const title = column.quiet ? (
    <span className="sr-only">{column.title}</span>
  ) : column.mark ? (
    <span className="whitespace-nowrap">
      {column.mark} {column.title}
    </span>
  ) : (
    column.title
  )
  const up = sort === column.id
  const down = sort === `-${column.id}`
  const sortable = onSort && column.value && !column.quiet
  return (
    <th
      scope="col"
      className={column.align === 'right' ? 'text-right' : undefined}
      aria-sort={up ? 'ascending' : down ? 'descending' : undefined}
    >
      {sortable ? (
        <button
          type="button"
          className="-my-1 py-1 text-[length:inherit] hover:underline"
          title={up ? 'Sort descending' : down ? 'Back to the usual order' : 'Sort ascending'}
          onClick={() => onSort(up ? `-${column.id}` : down ? '' : column.id)}
        >
          {title}
          {(up || down) && <span aria-hidden>{up ? ' ↑' : ' ↓'}</span>}
        </button>
      ) : (
        title
      )}
    </th>
  )
}
