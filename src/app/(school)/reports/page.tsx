import type { Metadata } from 'next'
import Link from '../../shared/link'
import { shortDate } from '@/core/calendar/date-words'
import { rounds } from '@/server/reports/queries'
import { fetchForPage } from '../../shared/page-data'
import { PageHead } from '../../shared/page-head'

export const metadata: Metadata = { title: 'Reports' }

export default async function ReportsPage() {
  const all = await fetchForPage(rounds, {})
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
                <td>{r.year_groups}</td>
                <td>{shortDate(r.due_on)}</td>
                <td className="text-right">{r.writing}</td>
                <td className="text-right">{r.handed_in}</td>
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
