'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { PdfPages } from '@/ui/pdf-pages'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'

/** Single cards as the real page, at any time; not final across them until everything is checked. */
export function CardsPage({
  input,
  initial,
}: {
  input: { roundId: string; homeroomId: string }
  initial: QueryOutput<'reports.cardList'>
}) {
  const [{ round, homeroom, students }] = useLive('reports.cardList', input, initial)
  const [chosen, setChosen] = useState(0)
  const [page, setPage] = useState(1)
  const student = students[chosen]
  const address = student && `/api/card-preview?${new URLSearchParams({ ...input, studentId: student.id })}`
  return (
    <div className="grid min-h-full lg:grid-cols-[minmax(0,1fr)_minmax(340px,470px)]">
      <div className="sheet">
        <PageHead title={`${homeroom.name}, cards`} detail={round.name}>
          <nav className="mt-2">
            <Link className="link" href={`/reports/${round.id}`}>
              Back to the round
            </Link>
          </nav>
        </PageHead>
        {students.length === 0 ? (
          <p>Nobody is in this homeroom now.</p>
        ) : (
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Student</th>
                <th scope="col">Checked</th>
                <th scope="col">Released</th>
              </tr>
            </thead>
            <tbody>
              {students.map((s, i) => (
                <tr key={s.id} className={i === chosen ? 'bg-shoal' : ''}>
                  <th scope="row">
                    <button
                      type="button"
                      aria-pressed={i === chosen}
                      className="link text-[15px]"
                      onClick={() => {
                        setChosen(i)
                        setPage(1)
                      }}
                    >
                      {s.name}
                    </button>
                  </th>
                  <td>
                    {s.checked} of {s.lines}
                    {s.checked < s.lines && <span className="text-muted">, not final</span>}
                  </td>
                  <td>
                    {s.issue ? (
                      <>
                        <a
                          className="link"
                          href={`/api/documents/${s.documentId}`}
                          target="_blank"
                          rel="noreferrer"
                        >
                          issue {s.issue}
                        </a>
                        {(s.leftOut?.length ?? 0) > 0 && (
                          <span className="text-muted">, {s.leftOut?.length} to follow</span>
                        )}
                      </>
                    ) : (
                      <span className="text-muted">not yet</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      <aside
        aria-label="The card"
        className="border-l border-rule bg-panel p-5 max-lg:border-t max-lg:border-l-0"
      >
        {student && address && (
          <>
            <PdfPages
              key={student.id}
              address={address}
              name={`Card of ${student.name}`}
              page={page}
              onPage={setPage}
            />
            <p className="mt-2">
              <a className="link" href={address} target="_blank" rel="noreferrer">
                Open this card by itself
              </a>
            </p>
          </>
        )}
      </aside>
    </div>
  )
}
