import { fetchForPage, workingDate } from '@/screen/page-data'
import { OtherYears } from '@/screen/other-years'
import { PageHead } from '@/screen/page-head'
import { RoundList } from './round-list'

export default async function ReportsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const { rounds, year, elsewhere } = await fetchForPage('reports.rounds', {
    date: await workingDate(searchParams),
  })
  return (
    <div className="sheet">
      <PageHead title="Report rounds" detail={year} />
      <RoundList rows={rounds} />
      <OtherYears of={elsewhere} path="/reports" />
    </div>
  )
}
