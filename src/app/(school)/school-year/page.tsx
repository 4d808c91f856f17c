import type { Metadata } from 'next'
import { shortDate } from '@/core/calendar/date-words'
import { schoolDays } from '@/core/calendar/school-year'
import { fetchForPage, workingDate } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'
import { NewYear } from './new-year'
import { YearGroups } from './year-groups'

export const metadata: Metadata = { title: 'School year' }

export default async function SchoolYearPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const { year, homerooms, mayChange } = await fetchForPage('year.structure', { date })
  if (!year)
    return (
      <div className="sheet max-w-3xl">
        <PageHead title="School year" />
        {mayChange ? (
          <NewYear today={date} />
        ) : (
          <p>There is no academic year yet. An administrator makes it here.</p>
        )}
      </div>
    )
  return (
    <div className="sheet max-w-4xl">
      <PageHead
        title={`Academic year ${year.name}`}
        detail={`${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}`}
      />
      <div className="grid gap-8 md:grid-cols-[5fr_6fr] [&_tbody]:whitespace-nowrap">
        <section>
          <h2 className="mb-1">Terms</h2>
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Term</th>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col" className="text-right">
                  School days
                </th>
              </tr>
            </thead>
            <tbody>
              {year.terms.map((t) => (
                <tr key={t.id}>
                  <th scope="row">{t.name}</th>
                  <td>{shortDate(t.firstDay)}</td>
                  <td>{shortDate(t.lastDay)}</td>
                  <td className="text-right">{schoolDays(year, t.firstDay, t.lastDay).length}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <section>
          <h2 className="mb-1">Days without school</h2>
          {year.closures.length === 0 ? (
            <p>None within the terms.</p>
          ) : (
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">Name</th>
                  <th scope="col">Kind</th>
                  <th scope="col">From</th>
                  <th scope="col">To</th>
                </tr>
              </thead>
              <tbody>
                {year.closures.map((c) => (
                  <tr key={c.firstDay}>
                    <th scope="row">{c.name}</th>
                    <td>{c.kind}</td>
                    <td>{shortDate(c.firstDay)}</td>
                    <td>{c.lastDay === c.firstDay ? '' : shortDate(c.lastDay)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      </div>
      <section className="mt-8">
        <h2 className="mb-1">Year groups and homerooms</h2>
        {homerooms.length === 0 ? (
          <p className="mb-3">
            None yet. Add the year groups in order, youngest first, each with its homerooms.
          </p>
        ) : (
          <table className="rows mb-4">
            <thead>
              <tr>
                <th scope="col">Year group</th>
                <th scope="col">Homeroom</th>
                <th scope="col">Homeroom teacher</th>
                <th scope="col" className="text-right">
                  Students
                </th>
              </tr>
            </thead>
            <tbody>
              {homerooms.map((h) => (
                <tr key={`${h.yearGroup} ${h.homeroom}`}>
                  <th scope="row">{h.yearGroup}</th>
                  <td>{h.homeroom ?? 'none'}</td>
                  <td>{h.teacher}</td>
                  <td className="text-right">{h.homeroom && h.students}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {mayChange && <YearGroups yearId={year.id} open={homerooms.length === 0} />}
      </section>
    </div>
  )
}
