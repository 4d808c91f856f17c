import { shortDate } from '@/core/calendar/date-words'
import { fetchForPage, workingDate } from '@/screen/page-data'
import { SchoolHead } from '@/app/(school)/school/school-head'
import { NewYear, YearGroups } from './set-up'
import { Closures, Homerooms, Terms } from './tables'

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
        <SchoolHead title="Year" />
        {mayChange ? (
          <NewYear today={date} />
        ) : (
          <p>There is no academic year yet. An administrator creates it here.</p>
        )}
      </div>
    )
  return (
    <div className="sheet max-w-4xl">
      <SchoolHead
        title="Year"
        detail={`Academic year ${year.name}, ${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}`}
      />
      <div className="grid gap-8 md:grid-cols-[5fr_6fr] [&_tbody]:whitespace-nowrap">
        <section>
          <h2 className="mb-1">Terms</h2>
          <Terms year={year} />
        </section>
        <section>
          <h2 className="mb-1">Days without school</h2>
          <Closures rows={year.closures} />
        </section>
      </div>
      <section className="mt-8">
        <h2 className="mb-1">Year groups and homerooms</h2>
        <div className="mb-4">
          <Homerooms rows={homerooms} />
        </div>
        {mayChange && <YearGroups yearId={year.id} open={homerooms.length === 0} />}
      </section>
    </div>
  )
}
