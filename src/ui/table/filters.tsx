'use client'
import { Select } from '@/ui/field'
import type { Column, TableView } from './column'

const names = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })

/** Only the rows that have the value chosen in each column. */
export function onlyChosen<T>(
  rows: readonly T[],
  columns: readonly Column<T>[],
  only: Readonly<Record<string, string>>,
): readonly T[] {
  const chosen = columns.filter((c) => c.choices && only[c.id])
  if (chosen.length === 0) return rows
  return rows.filter((row) => chosen.every((c) => c.choices?.(row).includes(only[c.id] ?? '')))
}

/** A choice for each column whose rows fall into a few kinds. */
export function Filters<T>({
  rows,
  columns,
  view,
}: {
  rows: readonly T[]
  columns: readonly Column<T>[]
  view: TableView
}) {
  return columns
    .filter((c) => c.choices)
    .map((c) => {
      const chosen = view.only[c.id] ?? ''
      const values = new Set(rows.flatMap((row) => c.choices?.(row) ?? []))
      // One that nobody has by now is still shown, so that it can be taken back.
      if (chosen) values.add(chosen)
      // What names the rows has as many kinds as there are rows: only a link narrows to it.
      if ((values.size < 2 || c.heading) && !chosen) return null
      return (
        <Select
          key={c.id}
          aria-label={`Only ${c.title.toLowerCase()}`}
          className={`w-auto! max-w-36 ${chosen ? 'border-ink font-bold' : ''}`}
          value={chosen}
          onChange={(e) => view.onOnly(c.id, e.target.value)}
        >
          <option value="">{c.title}: all</option>
          {[...values].sort(names.compare).map((value) => (
            <option key={value} value={value}>
              {value}
            </option>
          ))}
        </Select>
      )
    })
}

/** On a phone, where a list has no heads to sort by. */
export function SortBy<T>({ columns, view }: { columns: readonly Column<T>[]; view: TableView }) {
  const choices = columns.filter((c) => c.value && !c.quiet)
  if (choices.length < 2) return null
  return (
    <Select
      aria-label="Sort by"
      className="w-auto! max-w-40 sm:hidden"
      value={view.sort}
      onChange={(e) => view.onSort(e.target.value)}
    >
      <option value="">Sort: usual</option>
      {choices.map((c) => (
        <option key={c.id} value={c.id}>
          Sort: {c.title}
        </option>
      ))}
      {view.sort.startsWith('-') && <option value={view.sort}>Sort: descending</option>}
    </Select>
  )
}
