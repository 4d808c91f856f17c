'use client'
import { getCoreRowModel, getSortedRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table'
import { useMemo, type ReactNode } from 'react'
import type { Column, Narrowing, TableView } from './column'
import { onlyChosen } from './filters'
import { Heading } from './heading'
import { ListRow } from './list-row'
import { compare, narrowed, sortOf } from './order'
import { onRowKey } from './row-keys'
import { TableBar } from './table-bar'
import { useRowsInView, useScrolledTo } from './use-rows-in-view'
import { HiddenTicks, TickAll, type Ticked } from './ticks'

interface Props<T> {
  /** Names the table to screen readers. */
  readonly label: string
  readonly rows: readonly T[]
  readonly columns: readonly Column<T>[]
  readonly rowKey: (row: T) => string
  /** What stands in place of the table when there are no rows at all. */
  readonly empty: ReactNode
  readonly view?: TableView
  readonly filter?: Narrowing<T>
  /** Beside the filter. */
  readonly acts?: ReactNode
  /** The name of the file as which the list, as it is shown, can be downloaded. */
  readonly download?: string
  readonly selected?: string
  /** The row that was followed from elsewhere: marked, and scrolled to. */
  readonly found?: string
  readonly onSelect?: (key: string) => void
  readonly ticked?: Ticked<T>
  readonly rowClass?: (row: T) => string
  readonly caption?: ReactNode
}

/**
 * The one table of lists: sorted by its heads, narrowed by a text, drawn only in view when it is long, gone along with
 * the arrow keys; `/` goes to the filter.
 */
export function DataTable<T>(props: Props<T>) {
  const { label, rows, rowKey, empty, view, filter, found, caption } = props
  const hidden = view?.hidden
  const columns = useMemo(
    () => (hidden?.length ? props.columns.filter((c) => c.heading || !hidden.includes(c.id)) : props.columns),
    [props.columns, hidden],
  )
  const { ticked } = props
  const width = columns.length + (ticked ? 1 : 0)
  const text = view?.text ?? ''
  const only = view?.only
  const kept = useMemo(
    () => (only ? onlyChosen(rows, props.columns, only) : rows),
    [rows, props.columns, only],
  )
  // How a row matches depends on the rows and the text alone, though the caller makes the function anew each time.
  const shown = useMemo(() => narrowed(kept, filter, text), [kept, text]) // eslint-disable-line react-hooks/exhaustive-deps
  const definitions = useMemo(
    () =>
      columns.map((c): ColumnDef<T> => ({
        id: c.id,
        accessorFn: (row) => c.value?.(row),
        sortingFn: compare(c),
      })),
    [columns],
  )
  const table = useReactTable({
    data: shown as T[],
    columns: definitions,
    getRowId: rowKey,
    autoResetAll: false,
    state: { sorting: sortOf(view?.sort ?? '') },
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  })
  const all = table.getRowModel().rows
  /** Those that are ticked; all that are shown while none is. */
  const taken = () => {
    const own = ticked ? all.filter((row) => ticked.keys.has(row.id)) : []
    return (own.length > 0 ? own : all).map((row) => row.original)
  }
  const { ref, drawn, before, after } = useRowsInView(all.length)
  useScrolledTo(ref, found === undefined ? -1 : all.findIndex((row) => row.id === found))
  if (rows.length === 0) return <div className="max-w-xl">{empty}</div>
  return (
    <div
      onKeyDown={(e) => {
        if (e.key !== '/' || (e.target as HTMLElement).matches('input, select, textarea')) return
        const input = e.currentTarget.querySelector<HTMLElement>('[data-filter]')
        if (!input) return
        e.preventDefault()
        input.focus()
      }}
    >
      <TableBar {...props} shown={all.length} taken={taken} columns={columns} all={props.columns} />
      {ticked && <HiddenTicks ticked={ticked} ids={rows.map(rowKey)} shown={all.map((row) => row.id)} />}
      <table
        className="rows stacked"
        aria-label={label}
        aria-rowcount={all.length + 1}
        onKeyDown={onRowKey}
        ref={ref}
      >
        {caption && <caption className="mb-2 text-left text-muted">{caption}</caption>}
        <thead>
          <tr aria-rowindex={1}>
            {ticked && (
              <th scope="col" className="w-9" data-tick>
                <TickAll ticked={ticked} rows={all} />
              </th>
            )}
            {columns.map((c) => (
              <Heading key={c.id} column={c} sort={view?.sort ?? ''} onSort={view?.onSort} />
            ))}
          </tr>
        </thead>
        <tbody>
          {before > 0 && (
            <tr aria-hidden>
              <td colSpan={width} style={{ height: before, padding: 0, border: 0 }} />
            </tr>
          )}
          {drawn.map((i) => {
            const row = all[i]
            if (!row) return null
            return (
              <ListRow key={row.id} {...props} columns={columns} id={row.id} row={row.original} index={i} />
            )
          })}
          {after > 0 && (
            <tr aria-hidden>
              <td colSpan={width} style={{ height: after, padding: 0, border: 0 }} />
            </tr>
          )}
        </tbody>
      </table>
      {all.length === 0 && (
        <p role="status" className="mt-3 text-muted">
          {filter?.none ?? 'Nothing matches what was chosen.'}
        </p>
      )}
    </div>
  )
}
