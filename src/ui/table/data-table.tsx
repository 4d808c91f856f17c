'use client'
import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type Row,
  type SortingState,
} from '@tanstack/react-table'
import { useMemo, useState, type KeyboardEvent, type ReactNode } from 'react'
import { TextInput } from '@/ui/field'
import { ChooseColumns } from './choose-columns'
import type { Column, TableView } from './column'
import { Download } from './download'
import { Filters, onlyChosen, SortBy } from './filters'
import { useRowsInView, useScrolledTo } from './use-rows-in-view'
import { HiddenTicks, TickAll, TickRow, type Ticked } from './ticks'

interface Props<T> {
  /** Names the table to screen readers. */
  readonly label: string
  readonly rows: readonly T[]
  readonly columns: readonly Column<T>[]
  readonly rowKey: (row: T) => string
  /** What stands in place of the table when there are no rows at all. */
  readonly empty: ReactNode
  readonly view?: TableView
  /** Narrows by a text: a lower number is a better match, undefined is none. */
  readonly filter?: {
    readonly label: string
    readonly rank: (row: T, text: string) => number | undefined
    readonly none: string
    /** For a page whose first act is to look up a person. */
    readonly autoFocus?: boolean
  }
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

const sortOf = (sort: string): SortingState =>
  sort ? [{ id: sort.replace(/^-/, ''), desc: sort.startsWith('-') }] : []

/** The view of a table whose narrowing nobody else needs to find. */
export function useTableView(): TableView {
  const [text, onText] = useState('')
  const [sort, onSort] = useState('')
  const [hidden, onHide] = useState<readonly string[]>([])
  const [only, setOnly] = useState<Readonly<Record<string, string>>>({})
  return useMemo(
    () => ({
      text,
      sort,
      hidden,
      only,
      onText,
      onSort,
      onHide,
      onOnly: (id, value) => setOnly({ ...only, [id]: value }),
    }),
    [text, sort, hidden, only],
  )
}

const names = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

function compare<T>(column: Column<T>) {
  return (a: Row<T>, b: Row<T>) => {
    const [x, y] = [column.value?.(a.original), column.value?.(b.original)]
    if (typeof x === 'number' && typeof y === 'number') return x - y
    return names.compare(String(x ?? ''), String(y ?? ''))
  }
}

/** Only the rows that match, the best first; all of them for no text. */
function narrowed<T>(rows: readonly T[], filter: Props<T>['filter'], text: string): readonly T[] {
  if (!filter || text.trim() === '') return rows
  return rows
    .map((row) => ({ row, rank: filter.rank(row, text) }))
    .filter((r): r is { row: T; rank: number } => r.rank !== undefined)
    .sort((a, b) => a.rank - b.rank)
    .map((r) => r.row)
}

/** Moves the focus along the rows, to what opens each. */
function onRowKey(event: KeyboardEvent<HTMLTableElement>): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const row = (event.target as HTMLElement).closest('tbody tr')
  if (by === 0 || !row || (event.target as HTMLElement).matches('input, select, textarea')) return
  let next = by > 0 ? row.nextElementSibling : row.previousElementSibling
  while (next && !next.querySelector('a, button'))
    next = by > 0 ? next.nextElementSibling : next.previousElementSibling
  const to = next?.querySelector<HTMLElement>('a, button')
  if (!to) return
  event.preventDefault()
  to.focus()
}

function Heading<T>({
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

/**
 * The one table of lists: sorted by its heads, narrowed by a text, drawn only in view when it is long, gone along with
 * the arrow keys; `/` goes to the filter.
 */
export function DataTable<T>(props: Props<T>) {
  const { label, rows, rowKey, empty, view, filter, acts, selected, found, onSelect, rowClass, caption } =
    props
  const hidden = view?.hidden
  const columns = useMemo(
    () => (hidden?.length ? props.columns.filter((c) => c.heading || !hidden.includes(c.id)) : props.columns),
    [props.columns, hidden],
  )
  const { ticked } = props
  const width = columns.length + (ticked ? 1 : 0)
  const written = columns.filter((c) => c.value && !c.quiet)
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
    return own.length > 0 ? own : all
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
      {(filter || acts || props.download) && (
        <div className="mb-3 flex flex-wrap items-end gap-2 no-print">
          {filter && (
            <TextInput
              data-filter
              autoFocus={filter.autoFocus}
              type="search"
              aria-label={filter.label}
              placeholder={filter.label}
              className="max-w-80 min-w-40 flex-1 basis-40"
              value={view?.text ?? ''}
              onChange={(e) => view?.onText(e.target.value)}
            />
          )}
          {(filter || view) && all.length < rows.length && (
            <span role="status" className="self-center text-[13px] whitespace-nowrap text-muted">
              {all.length} of {rows.length}
            </span>
          )}
          {view && <Filters rows={rows} columns={props.columns} view={view} />}
          {view && <SortBy columns={columns} view={view} />}
          {acts}
          {props.download && view && <ChooseColumns columns={props.columns} view={view} />}
          {props.download && (
            <Download
              list={() => ({
                name: props.download ?? label,
                header: written.map((c) => c.title),
                rows: taken().map((row) => written.map((c) => (c.written ?? c.value)?.(row.original))),
              })}
            />
          )}
        </div>
      )}
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
              <tr
                key={row.id}
                aria-rowindex={i + 2}
                aria-selected={onSelect ? row.id === selected : undefined}
                aria-current={row.id === found || undefined}
                className={`${row.id === selected || row.id === found ? 'chosen-row' : ''} ${rowClass?.(row.original) ?? ''}`}
                onClick={onSelect && (() => onSelect(row.id))}
              >
                {ticked && (
                  <td data-tick>
                    <TickRow ticked={ticked} id={row.id} row={row.original} />
                  </td>
                )}
                {columns.map((c) => {
                  const look = `${c.align === 'right' ? 'text-right' : ''} ${c.className ?? ''}`
                  const drawn = c.cell(row.original, i)
                  const content = typeof drawn === 'number' ? drawn.toLocaleString('en-GB') : drawn
                  return c.heading ? (
                    <th key={c.id} scope="row" className={look}>
                      {content}
                    </th>
                  ) : (
                    <td
                      key={c.id}
                      className={look}
                      data-act={c.quiet || undefined}
                      data-number={c.align === 'right' && !c.quiet ? c.title : undefined}
                    >
                      {content}
                    </td>
                  )
                })}
              </tr>
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
