'use client'
import { shortDate } from '@/core/calendar/date-words'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
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

/** Breaks, holidays and staff days. */
export function Closures({ rows }: { rows: SchoolYear['closures'] }) {
  return (
    <DataTable
      label="Days without school"
      rows={rows}
      rowKey={(c) => c.firstDay}
      empty={<p>No breaks or holidays within the terms.</p>}
      columns={[
        { id: 'name', title: 'Name', heading: true, cell: (c) => c.name },
        { id: 'kind', title: 'Kind', cell: (c) => c.kind },
        { id: 'from', title: 'First day', cell: (c) => shortDate(c.firstDay) },
        { id: 'to', title: 'Last day', cell: (c) => (c.lastDay === c.firstDay ? '' : shortDate(c.lastDay)) },
      ]}
    />
  )
}

/** Year groups in order, each with its homerooms. */
export function Homerooms({ rows }: { rows: QueryOutput<'year.structure'>['homerooms'] }) {
  return (
    <DataTable
      label="Year groups and homerooms"
      rows={rows}
      rowKey={(h) => `${h.yearGroup} ${h.homeroom}`}
      empty={<p>No year groups yet. Add them in order, youngest first, each with its homerooms.</p>}
      columns={[
        { id: 'group', title: 'Year group', heading: true, cell: (h) => h.yearGroup },
        { id: 'homeroom', title: 'Homeroom', cell: (h) => h.homeroom ?? 'no homeroom' },
        { id: 'teacher', title: 'Homeroom teacher', cell: (h) => h.teacher },
        { id: 'students', title: 'Students', align: 'right', cell: (h) => h.homeroom && h.students },
      ]}
    />
  )
}
