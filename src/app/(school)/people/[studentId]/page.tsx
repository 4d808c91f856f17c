import type { Metadata } from 'next'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { InviteAgain } from './invite-again'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

export const metadata: Metadata = { title: 'Student' }

const languageNames = new Intl.DisplayNames('en', { type: 'language' })

export default async function StudentPage({ params }: { params: Promise<{ studentId: string }> }) {
  const { studentId } = await params
  const s = await fetchForPage('people.student', { studentId })
  const detail =
    s.number === null
      ? `Accepted, expected from ${s.expectedFrom ? shortDate(s.expectedFrom, true) : 'a date not set'}, not yet enrolled`
      : `No. ${String(s.number).padStart(4, '0')}`
  return (
    <div className="sheet max-w-4xl">
      <PageHead title={spokenName(s.sortName)} detail={detail}>
        <nav className="mt-2 flex gap-4" aria-label="This student">
          {s.maySeeHistory && (
            <Link className="link" href={`/people/${s.id}/history`}>
              History of all changes
            </Link>
          )}
          {s.number === null && s.mayEnrol && (
            <Link className="link" href={`/people/enrol?applicant=${s.id}`}>
              Enrol
            </Link>
          )}
        </nav>
      </PageHead>
      <div className="grid gap-8 md:grid-cols-2">
        <section>
          <h2 className="mb-2 border-b border-ink pb-1">Record</h2>
          <dl className="grid grid-cols-[120px_1fr] gap-y-1">
            <dt className="text-muted">Legal name</dt>
            <dd>{s.legalName}</dd>
            {s.preferredName && (
              <>
                <dt className="text-muted">Preferred</dt>
                <dd>{s.preferredName}</dd>
              </>
            )}
            <dt className="text-muted">Born</dt>
            <dd>{shortDate(s.birthDate, true)}</dd>
            <dt className="text-muted">Address</dt>
            <dd>{s.address ?? 'not on record'}</dd>
            {s.transport && (
              <>
                <dt className="text-muted">Transport</dt>
                <dd>{s.transport}</dd>
              </>
            )}
          </dl>
          {s.supportNote && <p className="hint mt-3">{s.supportNote}</p>}
        </section>
        <section>
          <h2 className="mb-2 border-b border-ink pb-1">Guardians, in the order to call</h2>
          {s.guardians.length === 0 && <p>No guardian is on record.</p>}
          <ol className="grid gap-3">
            {s.guardians.map((g) => (
              <li key={g.id}>
                <strong>
                  {g.givenName} {g.familyName}
                </strong>
                , {g.relation}
                <span className="block text-muted">
                  {[g.phone, g.email, languageNames.of(g.language), g.address].filter(Boolean).join(', ')}
                </span>
                <span className="block text-muted">
                  {g.mayReceiveReports ? 'Receives reports' : 'Receives no reports'}
                </span>
                {s.mayEnrol && g.email && !g.hasAccount && (
                  <InviteAgain studentId={s.id} guardianId={g.id} name={`${g.givenName} ${g.familyName}`} />
                )}
              </li>
            ))}
          </ol>
        </section>
      </div>
      <section className="mt-8">
        <h2 className="mb-1">Places</h2>
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">Which</th>
              <th scope="col">From</th>
              <th scope="col">Until before</th>
            </tr>
          </thead>
          <tbody>
            {s.places.map((p) => (
              <tr key={p.kind + p.id + p.from} className={p.until ? 'text-muted' : ''}>
                <td className="first-letter:uppercase">{p.kind}</td>
                <th scope="row">{p.name}</th>
                <td>{shortDate(p.from, true)}</td>
                <td>{p.until ? shortDate(p.until, true) : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  )
}
