'use client'
import { monthName, shortDate, weekdayName } from '@/core/calendar/date-words'
import { schoolDays, weekday, type SchoolYear } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'

type Term = QueryOutput<'year.calendar'>['terms'][number]

/** The terms of a year with their school days; those who may edit them and open or close them to teachers. */
export function Terms({
  year,
  terms,
  onEdit,
  onOpen,
}: {
  year: SchoolYear
  terms: readonly Term[]
  onEdit?: (id: string) => void
  onOpen?: (term: Term) => void
}) {
  return (
    <DataTable
      label="Terms"
      rows={terms}
      rowKey={(t) => t.id}
      empty={<p>No terms.</p>}
      columns={[
        { id: 'term', title: 'Term', heading: true, cell: (t) => t.name },
        { id: 'from', title: 'First day', cell: (t) => shortDate(t.firstDay) },
        { id: 'to', title: 'Last day', cell: (t) => shortDate(t.lastDay) },
        {
          id: 'days',
          title: 'School days',
          align: 'right',
          cell: (t) => schoolDays(year, t.firstDay, t.lastDay).length,
        },
        { id: 'open', title: 'For teachers', cell: (t) => (t.open ? 'open' : 'closed') },
        ...(onEdit && onOpen
          ? [
              {
                id: 'edit',
                title: 'Edit',
                quiet: true,
                align: 'right' as const,
                cell: (t: Term) => (
                  <>
                    <Button kind="quiet" className="-my-1" onClick={() => onOpen(t)}>
                      {t.open ? 'Close' : 'Open'}
                      <span className="sr-only"> {t.name} to teachers</span>
                    </Button>
                    <Button kind="quiet" className="-my-1" onClick={() => onEdit(t.id)}>
                      Edit<span className="sr-only"> {t.name}</span>
                    </Button>
                  </>
                ),
              },
            ]
          : []),
      ]}
    />
  )
}

const months = (year: SchoolYear) => {
  const counts = new Map<string, number>()
  for (const day of schoolDays(year, year.firstDay, year.lastDay)) {
    const month = day.slice(0, 7)
    counts.set(month, (counts.get(month) ?? 0) + 1)
  }
  return [...counts]
}

/** How many school days each month and each weekday of the year has. */
export function SchoolDayCounts({ year }: { year: SchoolYear }) {
  const days = schoolDays(year, year.firstDay, year.lastDay)
  const lists = [
    { name: 'By month', counts: months(year).map(([month, n]) => [monthName(month), n] as const) },
    {
      name: 'By weekday',
      counts: year.weekdays.map(
        (d) => [weekdayName(d), days.filter((day) => weekday(day) === d).length] as const,
      ),
    },
  ]
  return (
    <div className="grid gap-4 text-[13px]">
      <p className="text-muted">{days.length} school days in the year.</p>
      {lists.map(({ name, counts }) => (
        <dl key={name} className="flex flex-wrap gap-x-5 gap-y-1" aria-label={name}>
          {counts.map(([what, n]) => (
            <div key={what} className="flex gap-2">
              <dt className="text-muted">{what}</dt>
              <dd>
                <strong>{n}</strong>
              </dd>
            </div>
          ))}
        </dl>
      ))}
    </div>
  )
}

/** Breaks, holidays and staff days; each can be edited by those who may. */
export function Closures({
  rows,
  onEdit,
}: {
  rows: QueryOutput<'year.calendar'>['closures']
  onEdit?: (id: string) => void
}) {
  return (
    <DataTable
      label="Days without school"
      rows={rows}
      rowKey={(c) => c.id}
      empty={<p>No breaks or holidays within the terms.</p>}
      columns={[
        { id: 'name', title: 'Name', heading: true, cell: (c) => c.name },
        { id: 'kind', title: 'Kind', cell: (c) => c.kind },
        { id: 'from', title: 'First day', cell: (c) => shortDate(c.firstDay) },
        { id: 'to', title: 'Last day', cell: (c) => (c.lastDay === c.firstDay ? '' : shortDate(c.lastDay)) },
        ...(onEdit
          ? [
              {
                id: 'edit',
                title: 'Edit',
                quiet: true,
                align: 'right' as const,
                cell: (c: (typeof rows)[number]) => (
                  <Button kind="quiet" className="-my-1" onClick={() => onEdit(c.id)}>
                    Edit<span className="sr-only"> {c.name}</span>
                  </Button>
                ),
              },
            ]
          : []),
      ]}
    />
  )
}
