import type { Metadata } from 'next'
import Link from '@/screen/link'
import { spokenName } from '@/core/people/names'
import { actor, fetchForPage, param } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

export const metadata: Metadata = { title: 'History' }

interface Props {
  params: Promise<{ studentId: string }>
  searchParams: Promise<Record<string, string | undefined>>
}

export default async function HistoryPage({ params, searchParams }: Props) {
  const { studentId } = await params
  const { student, changes, more } = await fetchForPage('history.ofStudent', {
    studentId,
    before: await param(searchParams, 'before'),
  })
  const { timeZone } = await actor()
  const moment = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    timeZone,
  })
  return (
    <div className="sheet max-w-5xl">
      <PageHead title={`History of ${spokenName(student.sortName)}`} detail="every change, newest first">
        <nav className="mt-2">
          <Link className="link" href={`/people/${student.id}`}>
            Back to the record
          </Link>
        </nav>
      </PageHead>
      {changes.length === 0 ? (
        <p>Nothing has been changed since the record was loaded.</p>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Who</th>
              <th scope="col">What</th>
              <th scope="col">From</th>
              <th scope="col">To</th>
            </tr>
          </thead>
          <tbody>
            {changes.flatMap((change) =>
              change.changes.map((c, i) => (
                <tr key={`${change.id} ${c.what}`} className="align-top">
                  <td className="whitespace-nowrap text-muted">
                    {i === 0 && moment.format(new Date(change.at))}
                  </td>
                  <td className="whitespace-nowrap">{i === 0 && change.actor}</td>
                  <td>
                    {i === 0 && (
                      <>
                        <strong>{change.kind}</strong>
                        {change.which && `, ${change.which}`}:{' '}
                      </>
                    )}
                    {c.what}
                  </td>
                  <td className="text-muted">{c.from || <span aria-label="nothing">–</span>}</td>
                  <td>{c.to || <span aria-label="nothing">–</span>}</td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      )}
      {more && (
        <p className="mt-4">
          <Link className="link" href={`?before=${changes.at(-1)?.id}`}>
            Earlier changes
          </Link>
        </p>
      )}
    </div>
  )
}
