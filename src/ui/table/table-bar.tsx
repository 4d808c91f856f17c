import type { ReactNode } from 'react'
import { TextInput } from '@/ui/field'
import { ChooseColumns } from './choose-columns'
import type { Column, Narrowing, TableView } from './column'
import { Download } from './download'
import { Filters, SortBy } from './filters'

/** What stands over a list: how it is narrowed and sorted, what can be done with it, and its file. */
export function TableBar<T>({
  rows,
  columns,
  all,
  view,
  filter,
  acts,
  download,
  shown,
  taken,
}: {
  rows: readonly T[]
  /** Those that are shown. */
  columns: readonly Column<T>[]
  all: readonly Column<T>[]
  view?: TableView
  filter?: Narrowing<T>
  acts?: ReactNode
  download?: string
  /** How many rows are left. */
  shown: number
  /** The rows of the file. */
  taken: () => readonly T[]
}) {
  if (!filter && !acts && !download) return null
  const written = columns.filter((c) => c.value && !c.quiet)
  return (
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
      {(filter || view) && shown < rows.length && (
        <span role="status" className="self-center text-[13px] whitespace-nowrap text-muted">
          {shown} of {rows.length}
        </span>
      )}
      {view && <Filters rows={rows} columns={all} view={view} />}
      {view && <SortBy columns={columns} view={view} />}
      {acts}
      {download && view && <ChooseColumns columns={all} view={view} />}
      {download && (
        <Download
          list={() => ({
            name: download,
            header: written.map((c) => c.title),
            rows: taken().map((row) => written.map((c) => (c.written ?? c.value)?.(row))),
          })}
        />
      )}
    </div>
  )
}
