import type { Column } from './column'
import { TickRow, type Ticked } from './ticks'

/** A row of a list. */
export function ListRow<T>({
  id,
  row,
  index,
  columns,
  selected,
  found,
  onSelect,
  rowClass,
  ticked,
}: {
  id: string
  row: T
  index: number
  columns: readonly Column<T>[]
  selected?: string
  found?: string
  onSelect?: (key: string) => void
  rowClass?: (row: T) => string
  ticked?: Ticked<T>
}) {
  return (
    <tr
      aria-rowindex={index + 2}
      aria-selected={onSelect ? id === selected : undefined}
      aria-current={id === found || undefined}
      className={`${id === selected || id === found ? 'chosen-row' : ''} ${rowClass?.(row) ?? ''}`}
      onClick={onSelect && (() => onSelect(id))}
    >
      {ticked && (
        <td data-tick>
          <TickRow ticked={ticked} id={id} row={row} />
        </td>
      )}
      {columns.map((c) => (
        <ListCell key={c.id} column={c} row={row} index={index} />
      ))}
    </tr>
  )
}

function ListCell<T>({ column: c, row, index }: { column: Column<T>; row: T; index: number }) {
  const look = `${c.align === 'right' ? 'text-right' : ''} ${c.className ?? ''}`
  const drawn = c.cell(row, index)
  const content = typeof drawn === 'number' ? drawn.toLocaleString('en-GB') : drawn
  return c.heading ? (
    <th scope="row" className={look}>
      {content}
    </th>
  ) : (
    <td
      className={look}
      data-act={c.quiet || undefined}
      data-number={c.align === 'right' && !c.quiet ? c.title : undefined}
    >
      {content}
    </td>
  )
}
