'use client'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { useClock } from '@/screen/clock'

type Change = QueryOutput<'history.ofStudent'>['changes'][number]
type Line = Change['changes'][number] & { readonly of: Change; readonly first: boolean }

const nothing = (
  <>
    <span aria-hidden>–</span>
    <span className="sr-only">nothing</span>
  </>
)

const columnsIn = (moment: (iso: string) => string): readonly Column<Line>[] => [
  {
    id: 'when',
    title: 'When',
    className: 'whitespace-nowrap text-muted',
    cell: ({ of, first }) => first && moment(of.at),
  },
  { id: 'who', title: 'Who', className: 'whitespace-nowrap', cell: ({ of, first }) => first && of.actor },
  {
    id: 'what',
    title: 'What',
    cell: ({ of, first, what }) => (
      <>
        {first && (
          <>
            <strong>{of.kind}</strong>
            {of.which && `, ${of.which}`}:{' '}
          </>
        )}
        {what}
      </>
    ),
  },
  { id: 'from', title: 'From', className: 'text-muted', cell: ({ from }) => from || nothing },
  { id: 'to', title: 'To', cell: ({ to }) => to || nothing },
]

/** Every change to what belongs to a student: when, who, what, from what to what. */
export function Changes({ changes }: { changes: readonly Change[] }) {
  const { moment } = useClock()
  const lines = changes.flatMap((of) => of.changes.map((c, i): Line => ({ ...c, of, first: i === 0 })))
  return (
    <DataTable
      label="Changes"
      rows={lines}
      columns={columnsIn(moment)}
      rowKey={(line) => `${line.of.id} ${line.what}`}
      rowClass={() => 'align-top'}
      empty={<p>Nothing has been changed since the record was created.</p>}
    />
  )
}
