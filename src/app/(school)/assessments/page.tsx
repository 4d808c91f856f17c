import type { Metadata } from 'next'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { buttonLooks } from '@/ui/button'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

export const metadata: Metadata = { title: 'Assessments' }

export default async function AssessmentsPage() {
  const { assessments: all, mayCreate } = await fetchForPage('assessment.list', {})
  return (
    <div className="sheet max-w-5xl">
      <PageHead
        title="Assessments"
        detail={
          all.length === 0
            ? undefined
            : all.length === 1
              ? 'one so far'
              : `${all.length} so far, newest first`
        }
      />
      {mayCreate && (
        <p className="mb-4">
          <Link href="/assessments/new" className={buttonLooks()}>
            New assessment
          </Link>
        </p>
      )}
      {all.length === 0 ? (
        <p className="max-w-xl">
          Nothing here yet.{' '}
          {mayCreate
            ? 'Take a test you have as a PDF, type its answer key, and the answers your students gave: it is scored at once.'
            : 'Teachers make assessments; their results appear here.'}
        </p>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Assessment</th>
              <th scope="col">Classes</th>
              <th scope="col">Given</th>
              <th scope="col" className="text-right">
                Questions
              </th>
              <th scope="col" className="text-right">
                Answers
              </th>
              <th scope="col">
                <span className="sr-only">Go to</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {all.map((a) => (
              <tr key={a.id}>
                <th scope="row">
                  <Link className="link" href={`/assessments/${a.id}${a.sheets > 0 ? '/findings' : ''}`}>
                    {a.name}
                  </Link>
                  <span className="text-muted">, {a.subject}</span>
                </th>
                <td>{a.classes}</td>
                <td>{shortDate(a.givenOn)}</td>
                <td className="text-right">{a.questions}</td>
                <td className="text-right">
                  {a.sheets} of {a.onRoll}
                </td>
                <td className="text-right">
                  <Link className="link" href={`/assessments/${a.id}/answers`}>
                    Answers<span className="sr-only"> of {a.name}</span>
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
