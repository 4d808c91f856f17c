import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { spokenName } from '@/core/people/names'
import { numberWords } from '@/core/people/student-number'
import { buttonLooks } from '@/ui/button'
import { InviteAgain } from './invite-again'
import { Memberships } from './memberships'
import { studentPages } from './student-pages'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

const languageNames = new Intl.DisplayNames('en', { type: 'language' })

export default async function StudentPage({ params }: { params: Promise<{ studentId: string }> }) {
  const { studentId } = await params
  const s = await fetchForPage('people.student', { studentId })
  const detail =
    s.number === null
      ? `Accepted, not yet enrolled; expected ${s.expectedFrom ? `from ${shortDate(s.expectedFrom, true)}` : 'at a date not entered'}`
      : `No. ${numberWords(s.number)}`
  return (
    <div className="sheet max-w-4xl">
      <PageHead
        title={spokenName(s.sortName)}
        page="Record"
        pages={studentPages(s.id, s.maySeeHistory)}
        detail={detail}
        act={
          s.number === null &&
          s.mayEnrol && (
            <Link className={buttonLooks()} href={`/people/enrol?applicant=${s.id}`}>
              Enrol
            </Link>
          )
        }
      />
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
            <dd>{s.address ?? 'not entered'}</dd>
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
          {s.guardians.length === 0 && <p>No guardian has been entered.</p>}
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
                  {g.mayReceiveReports ? 'Receives reports' : 'Does not receive reports'}
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
        <h2 className="mb-1">Memberships</h2>
        <Memberships rows={s.places} />
      </section>
    </div>
  )
}
