'use client'
import { shortDate } from '@/core/calendar/date-words'
import { matchRank, spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { useTableAddress } from '@/screen/use-table-address'

type Assessment = QueryOutput<'assessment.list'>['assessments'][number]

/** Whose an assessment is: one's own, what colleagues share, and what is shared with the whole school. */
const whose = { own: 'own', colleagues: 'colleagues', school: 'school' } as const

const columns: readonly Column<Assessment>[] = [
  {
    id: 'name',
    title: 'Assessment',
    heading: true,
    value: (a) => a.name,
    cell: (a) => (
      <>
        <Link
          className="link"
          href={`/assessments/${a.id}${a.sheets > 0 && a.maySeeResults ? '/findings' : ''}`}
        >
          {a.name}
        </Link>
        {a.description && <span className="block max-w-96 text-[13px] text-muted">{a.description}</span>}
        {a.tags.length > 0 && <span className="block text-[13px] text-muted">{a.tags.join(' · ')}</span>}
      </>
    ),
  },
  {
    id: 'from',
    title: 'Whose',
    value: (a) => whose[a.from],
    cell: (a) =>
      a.from === 'own' ? (
        <span className="text-muted">own</span>
      ) : (
        <>
          {spokenName(a.owner)}
          {a.from === 'school' && <span className="text-muted">, for the school</span>}
        </>
      ),
    choices: (a) => [whose[a.from]],
  },
  {
    id: 'subject',
    title: 'Subject',
    value: (a) => a.subject,
    cell: (a) => a.subject,
    choices: (a) => [a.subject],
  },
  {
    id: 'year',
    title: 'Year group',
    value: (a) => a.yearGroup,
    cell: (a) => a.yearGroup ?? '',
    choices: (a) => (a.yearGroup ? [a.yearGroup] : []),
  },
  { id: 'classes', title: 'Classes', value: (a) => a.classes, cell: (a) => a.classes },
  {
    id: 'given',
    title: 'Given on',
    className: 'min-w-16',
    value: (a) => a.givenOn,
    cell: (a) => shortDate(a.givenOn),
  },
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
    className: 'whitespace-nowrap',
    value: (a) => a.sheets / Math.max(1, a.onRoll),
    cell: (a) =>
      a.maySeeResults && (
        <Link className="link" href={`/assessments/${a.id}/answers`}>
          {a.sheets} of {a.onRoll}
          <span className="sr-only"> answers, {a.name}</span>
        </Link>
      ),
  },
]

/** All that an assessment is found by. */
const wordsOf = (a: Assessment) =>
  [a.name, a.subject, a.classes, a.yearGroup, a.owner, a.description, ...a.tags, a.standards].join(' ')

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
        rows.length > 6 || rows.some((a) => a.from !== 'own')
          ? {
              label: 'Name, tag or standard',
              rank: (a, text) => matchRank(wordsOf(a), text),
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
