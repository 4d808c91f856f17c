'use client'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'

type Round = QueryOutput<'reports.rounds'>['rounds'][number]

const count = (
  id: 'writing' | 'handedIn' | 'checked' | 'released' | 'classes',
  title: string,
): Column<Round> => ({
  id,
  title,
  align: 'right',
  cell: (r) => r[id],
})

const columns: readonly Column<Round>[] = [
  {
    id: 'round',
    title: 'Round',
    heading: true,
    cell: (r) => (
      <Link className="link" href={`/reports/${r.id}`}>
        {r.name}
      </Link>
    ),
  },
  { id: 'groups', title: 'Year groups', cell: (r) => r.yearGroups },
  { id: 'due', title: 'Due', cell: (r) => shortDate(r.dueOn) },
  count('writing', 'Writing'),
  count('handedIn', 'Handed in'),
  count('checked', 'Checked'),
  count('released', 'Released'),
  count('classes', 'Classes'),
]

/** The report rounds with how many classes are in which state. */
export function RoundList({ rows }: { rows: readonly Round[] }) {
  return (
    <DataTable
      label="Report rounds"
      rows={rows}
      columns={columns}
      rowKey={(r) => r.id}
      empty={
        <p>
          There is no report round in this academic year yet. A round is one production of report cards for
          some year groups; it appears here with the progress of every class.
        </p>
      }
    />
  )
}
