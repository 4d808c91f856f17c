'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { PdfPages } from '@/ui/pdf-pages'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'

type Card = QueryOutput<'reports.cardList'>['students'][number]

const columnsOf = (choose: (id: string) => void, chosen: string | undefined): readonly Column<Card>[] => [
  {
    id: 'student',
    title: 'Student',
    heading: true,
    cell: (s) => (
      <button
        type="button"
        aria-pressed={s.id === chosen}
        className="link text-[15px]"
        onClick={() => choose(s.id)}
      >
        {s.name}
      </button>
    ),
  },
  {
    id: 'checked',
    title: 'Checked',
    cell: (s) => (
      <>
        {s.checked} of {s.lines}
        {s.checked < s.lines && <span className="text-muted">, not final</span>}
      </>
    ),
  },
  {
    id: 'released',
    title: 'Released',
    cell: (s) =>
      s.issue ? (
        <>
          <a className="link" href={`/api/documents/${s.documentId}`} target="_blank" rel="noreferrer">
            version {s.issue}
          </a>
          {(s.leftOut?.length ?? 0) > 0 && (
            <span className="text-muted">, {s.leftOut?.length} to follow</span>
          )}
        </>
      ) : (
        <span className="text-muted">not released</span>
      ),
  },
]

/** Each card as it will be printed, at any time; marked "not final" until everything is checked. */
export function CardsPage({
  input,
  initial,
}: {
  input: { roundId: string; homeroomId: string }
  initial: QueryOutput<'reports.cardList'>
}) {
  const [{ round, homeroom, students }] = useLive('reports.cardList', input, initial)
  const [chosen, setChosen] = useState(students[0]?.id)
  const [page, setPage] = useState(1)
  const student = students.find((s) => s.id === chosen) ?? students[0]
  const address = student && `/api/card-preview?${new URLSearchParams({ ...input, studentId: student.id })}`
  return (
    <div className="grid min-h-full lg:grid-cols-[minmax(0,1fr)_minmax(340px,470px)]">
      <div className="sheet">
        <PageHead title={`${homeroom.name}, report cards`} detail={round.name}>
          <nav className="mt-2 no-print">
            <Link className="link" href={`/reports/${round.id}`}>
              Back to the round
            </Link>
          </nav>
        </PageHead>
        <DataTable
          label="Report cards"
          rows={students}
          columns={columnsOf((id) => {
            setChosen(id)
            setPage(1)
          }, student?.id)}
          rowKey={(s) => s.id}
          selected={student?.id}
          empty={<p>No students are in this homeroom.</p>}
        />
      </div>
      <aside
        aria-label="The card"
        className="min-w-0 overflow-x-auto border-l border-rule bg-panel p-5 max-lg:border-t max-lg:border-l-0 no-print"
      >
        {student && address && (
          <>
            <PdfPages
              key={student.id}
              address={address}
              name={`Report card of ${student.name}`}
              page={page}
              onPage={setPage}
            />
            <p className="mt-2">
              <a className="link" href={address} target="_blank" rel="noreferrer">
                Open this card in a new page
              </a>
            </p>
          </>
        )}
      </aside>
    </div>
  )
}
