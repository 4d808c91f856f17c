'use client'
import { monthName, shortDate, weekdayName } from '@/core/calendar/date-words'
import { schoolDays, weekday, type SchoolYear } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import { editColumn, onlyEdit } from '@/ui/table/edit-column'

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
              editColumn<Term>(
                {
                  words: (t) => (t.open ? 'Close' : 'Open'),
                  about: (t) => `${t.name} to teachers`,
                  act: onOpen,
                },
                { words: () => 'Edit', about: (t) => t.name, act: (t) => onEdit(t.id) },
              ),
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
              onlyEdit(
                (c: (typeof rows)[number]) => c.name,
                (c) => onEdit(c.id),
              ),
            ]
          : []),
      ]}
    />
  )
}

/** Marking and exam periods of the terms with their school days. */
export function Periods({
  year,
  rows,
  onEdit,
}: {
  year: SchoolYear
  rows: QueryOutput<'year.calendar'>['periods']
  onEdit?: (id: string) => void
}) {
  return (
    <DataTable
      label="Periods within the terms"
      rows={rows}
      rowKey={(p) => p.id}
      empty={<p>No marking or exam periods.</p>}
      columns={[
        { id: 'name', title: 'Name', heading: true, cell: (p) => p.name },
        { id: 'kind', title: 'Kind', cell: (p) => (p.kind === 'marking' ? 'marking' : 'exams') },
        { id: 'from', title: 'First day', cell: (p) => shortDate(p.firstDay) },
        { id: 'to', title: 'Last day', cell: (p) => shortDate(p.lastDay) },
        {
          id: 'days',
          title: 'School days',
          align: 'right',
          cell: (p) => schoolDays(year, p.firstDay, p.lastDay).length,
        },
        ...(onEdit
          ? [
              onlyEdit(
                (p: (typeof rows)[number]) => p.name,
                (p) => onEdit(p.id),
              ),
            ]
          : []),
      ]}
    />
  )
}
