'use client'
import { shortDate } from '@/core/calendar/date-words'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'

/** The terms of a year with their school days. */
export function Terms({ year }: { year: SchoolYear }) {
  return (
    <DataTable
      label="Terms"
      rows={year.terms}
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
      ]}
    />
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
