'use client'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { assessmentPages } from '@/app/(school)/assessments/[assessmentId]/assessment-pages'

type Series = QueryOutput<'assessment.series'>
type Piece = Series['assessments'][number]

/** The assessments of a series by day, and how the class developed over them. */
export function SeriesPage({ initial }: { initial: Series }) {
  const [server] = useLive('assessment.series', { assessmentId: initial.id }, initial)
  const { assessments } = server
  const columns: readonly Column<Piece>[] = [
    { id: 'day', title: 'Given on', value: (a) => a.givenOn, cell: (a) => shortDate(a.givenOn) },
    {
      id: 'name',
      title: 'Assessment',
      heading: true,
      value: (a) => a.name,
      cell: (a) => (
        <Link className="link" href={`/assessments/${a.id}${a.assessed > 0 ? '/findings' : ''}`}>
          {a.name}
          {a.id === server.id && <span className="sr-only">, this one</span>}
        </Link>
      ),
    },
    { id: 'classes', title: 'Classes', value: (a) => a.classes, cell: (a) => a.classes },
    {
      id: 'questions',
      title: 'Questions',
      align: 'right',
      value: (a) => a.questions,
      cell: (a) => a.questions,
    },
    { id: 'assessed', title: 'Assessed', align: 'right', value: (a) => a.assessed, cell: (a) => a.assessed },
    {
      id: 'mean',
      title: 'Mean share of points',
      className: 'w-72',
      value: (a) => (a.mean === null ? -1 : Number(a.mean)),
      cell: (a) => <Mean piece={a} />,
    },
  ]
  return (
    <div className="sheet">
      <PageHead
        title={server.name}
        page="Series"
        pages={assessmentPages(server)}
        detail={`${assessments.length === 1 ? '1 assessment' : `${assessments.length} assessments`} by day`}
      />
      <DataTable
        label="Series"
        rows={assessments}
        columns={columns}
        rowKey={(a) => a.id}
        found={server.id}
        empty={<p>There are no assessments in this series.</p>}
      />
      <p className="mt-1 text-[12px] text-muted">
        The bar runs from the lowest to the highest share of points; the line in it is the mean.
      </p>
    </div>
  )
}

/** The mean of a piece between its lowest and its highest result, on a line from 0 to 100 per cent. */
function Mean({ piece: { mean, lowest, highest, unmarked } }: { piece: Piece }) {
  if (mean === null || lowest === null || highest === null)
    return <span className="text-muted">no answers yet</span>
  return (
    <span className="flex items-center gap-2">
      <span aria-hidden className="relative block h-[10px] w-36 border-b border-line">
        <span
          className="absolute inset-y-0 bg-line/50"
          style={{ left: `${lowest}%`, width: `${Math.max(1, Number(highest) - Number(lowest))}%` }}
        />
        <span className="absolute inset-y-0 w-[3px] -translate-x-px bg-ink" style={{ left: `${mean}%` }} />
      </span>
      <strong>{Math.round(Number(mean))}%</strong>
      <span className="sr-only">
        , from {Math.round(Number(lowest))}% to {Math.round(Number(highest))}%
      </span>
      {unmarked > 0 && <span className="text-muted">not final</span>}
    </span>
  )
}
