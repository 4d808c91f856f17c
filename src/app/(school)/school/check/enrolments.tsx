'use client'
import { parseAsStringLiteral, useQueryStates } from 'nuqs'
import { useMemo } from 'react'
import { countedBy, crossed, type ClassCount, type CountedBy } from '@/core/calendar/set-up-check'
import { Button } from '@/ui/button'
import { Field, Select } from '@/ui/field'
import { DataTable, type Column } from '@/ui/table/data-table'
import Link from '@/screen/link'
import { narrowedTo } from '@/screen/use-table-address'

interface Line {
  readonly title: string
  readonly cells: readonly (number | undefined)[]
  readonly total: number
  readonly sum?: boolean
}

const sentence = (by: CountedBy) => by[0]?.toUpperCase() + by.slice(1)

const columnOf: Readonly<Record<CountedBy, string>> = {
  subject: 'subject',
  class: 'class',
  teacher: 'teachers',
  'year group': 'group',
  term: 'terms',
}

/** Where the classes behind a row, a column or a cell are listed. */
const listOf = (...chosen: readonly (readonly [CountedBy, string])[]) =>
  narrowedTo('/school/structure', Object.fromEntries(chosen.map(([by, title]) => [columnOf[by], title])))

/** Enrolments in classes by two headings that can be exchanged; copied into a spreadsheet or downloaded as it stands. */
export function Enrolments({ counts, date }: { counts: readonly ClassCount[]; date: string }) {
  const by = parseAsStringLiteral(countedBy)
  const [{ down, across }, set] = useQueryStates(
    { down: by.withDefault('subject'), across: by.withDefault('year group') },
    { history: 'replace' },
  )
  const table = useMemo(() => crossed(counts, down, across), [counts, down, across])
  const lines: readonly Line[] = [
    ...table.rows.map((title, i) => ({
      title,
      cells: table.cells[i] ?? [],
      total: table.rowTotals[i] ?? 0,
    })),
    { title: 'All', cells: table.columnTotals, total: table.total, sum: true },
  ]
  const columns: readonly Column<Line>[] = [
    {
      id: 'title',
      title: sentence(down),
      heading: true,
      value: (l) => l.title,
      cell: (l) =>
        l.sum ? (
          l.title
        ) : (
          <Link className="link" href={listOf([down, l.title])}>
            {l.title}
          </Link>
        ),
    },
    ...table.columns.map((title, i): Column<Line> => ({
      id: `c${i}`,
      title,
      align: 'right',
      value: (l) => l.cells[i],
      cell: (l) =>
        l.cells[i] === undefined ? undefined : (
          <Link
            className="link no-underline hover:underline"
            aria-label={`${l.cells[i]}, ${l.sum ? title : `${l.title}, ${title}`}`}
            href={l.sum ? listOf([across, title]) : listOf([down, l.title], [across, title])}
          >
            {l.cells[i]}
          </Link>
        ),
    })),
    {
      id: 'all',
      title: 'All',
      align: 'right',
      value: (l) => l.total,
      cell: (l) => <strong>{l.total}</strong>,
    },
  ]
  return (
    <section className="mt-8">
      <h2 className="mb-1">Enrolments in classes</h2>
      <p className="mb-3 text-muted">
        A student counts once in each class and term. A class with two teachers counts with both, and once in
        the totals.
      </p>
      <div className="mb-3 flex flex-wrap items-end gap-3 no-print">
        {(['down', 'across'] as const).map((which) => (
          <Field key={which} label={which === 'down' ? 'Rows' : 'Columns'}>
            {(field) => (
              <Select
                {...field}
                value={which === 'down' ? down : across}
                onChange={(e) => void set({ [which]: e.target.value as CountedBy })}
              >
                {countedBy.map((name) => (
                  <option key={name} value={name}>
                    {sentence(name)}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        ))}
        <Button kind="plain" onClick={() => void set({ down: across, across: down })}>
          Swap rows and columns
        </Button>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Enrolments in classes, table">
        <DataTable
          label="Enrolments in classes"
          download={`enrolments by ${down} and ${across} ${date}`}
          rows={lines}
          rowKey={(l) => (l.sum ? 'all' : `row ${l.title}`)}
          rowClass={(l) => (l.sum ? 'font-bold' : '')}
          columns={columns}
          empty={<p>No classes yet.</p>}
        />
      </div>
    </section>
  )
}
