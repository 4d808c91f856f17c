import type { Metadata } from 'next'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'

export const metadata: Metadata = { title: 'Reports' }

export default async function ReportsPage() {
  const all = await fetchForPage('reports.rounds', {})
  return (
    <div className="sheet max-w-5xl">
      <PageHead title="Reports" detail="report rounds" />
      {all.length === 0 ? (
        <p className="max-w-xl">
          There is no report round yet. A round is one production of report cards for some year groups; it
          will stand here with how far every class has come.
        </p>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Round</th>
              <th scope="col">Year groups</th>
              <th scope="col">Due</th>
              <th scope="col" className="text-right">
                Writing
              </th>
              <th scope="col" className="text-right">
                Handed in
              </th>
              <th scope="col" className="text-right">
                Checked
              </th>
              <th scope="col" className="text-right">
                Released
              </th>
              <th scope="col" className="text-right">
                Classes
              </th>
            </tr>
          </thead>
          <tbody>
            {all.map((r) => (
              <tr key={r.id}>
                <th scope="row">
                  <Link className="link" href={`/reports/${r.id}`}>
                    {r.name}
                  </Link>
                </th>
                <td>{r.yearGroups}</td>
                <td>{shortDate(r.dueOn)}</td>
                <td className="text-right">{r.writing}</td>
                <td className="text-right">{r.handedIn}</td>
                <td className="text-right">{r.checked}</td>
                <td className="text-right">{r.released}</td>
                <td className="text-right">{r.classes}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
