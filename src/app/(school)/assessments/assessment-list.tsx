'use client'
import { shortDate } from '@/core/calendar/date-words'
import { matchRank } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { useTableAddress } from '@/screen/use-table-address'

type Assessment = QueryOutput<'assessment.list'>['assessments'][number]

const columns: readonly Column<Assessment>[] = [
  {
    id: 'name',
    title: 'Assessment',
    heading: true,
    value: (a) => a.name,
    cell: (a) => (
      <>
        <Link className="link" href={`/assessments/${a.id}${a.sheets > 0 ? '/findings' : ''}`}>
          {a.name}
        </Link>
        <span className="text-muted">, {a.subject}</span>
      </>
    ),
  },
  { id: 'classes', title: 'Classes', value: (a) => a.classes, cell: (a) => a.classes },
  { id: 'given', title: 'Given on', value: (a) => a.givenOn, cell: (a) => shortDate(a.givenOn) },
  {
    id: 'questions',
    title: 'Questions',
    align: 'right',
    value: (a) => a.questions,
    cell: (a) => a.questions,
  },
  {
    id: 'answers',
    title: 'Answers',
    align: 'right',
    value: (a) => a.sheets / Math.max(1, a.onRoll),
    cell: (a) => (
      <Link className="link" href={`/assessments/${a.id}/answers`}>
        {a.sheets} of {a.onRoll}
        <span className="sr-only"> answers, {a.name}</span>
      </Link>
    ),
  },
]

/** The assessments a person may see, newest first. */
export function AssessmentList({ rows, mayCreate }: { rows: readonly Assessment[]; mayCreate: boolean }) {
  const view = useTableAddress()
  return (
    <DataTable
      label="Assessments"
      rows={rows}
      columns={columns}
      rowKey={(a) => a.id}
      view={view}
      filter={
        rows.length > 12
          ? {
              label: 'Assessment, subject or class',
              rank: (a, text) => matchRank(`${a.name} ${a.subject} ${a.classes}`, text),
              none: 'No matches. Check the spelling.',
            }
          : undefined
      }
      empty={
        <p>
          No assessments yet.{' '}
          {mayCreate
            ? 'Upload a test as a PDF, enter its answer key and the answers of your students; it is scored at once.'
            : 'Assessments that teachers create appear here.'}
        </p>
      }
    />
  )
}
