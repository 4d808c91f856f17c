'use client'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'

type Membership = QueryOutput<'people.student'>['places'][number]

const columns: readonly Column<Membership>[] = [
  { id: 'kind', title: 'Kind', className: 'first-letter:uppercase', cell: (p) => p.kind },
  { id: 'name', title: 'Name', heading: true, cell: (p) => p.name },
  { id: 'from', title: 'First day', cell: (p) => shortDate(p.from, true) },
  { id: 'until', title: 'Last day', cell: (p) => (p.until ? shortDate(addDays(p.until, -1), true) : '') },
]

/** Year groups, homerooms and classes of a student, with the days from and to. */
export function Memberships({ rows, date }: { rows: readonly Membership[]; date: string }) {
  return (
    <DataTable
      label="Memberships"
      rows={rows}
      columns={columns}
      rowKey={(p) => `${p.kind} ${p.id} ${p.from}`}
      rowClass={(p) => (p.from > date || (p.until !== null && p.until <= date) ? 'text-muted' : '')}
      empty={<p>Not enrolled yet.</p>}
    />
  )
}
