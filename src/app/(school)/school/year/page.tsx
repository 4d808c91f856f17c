import { fetchForPage, workingDate } from '@/screen/page-data'
import { YearPage } from './year-page'

export default async function SchoolYearPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <YearPage key={date} initial={await fetchForPage('year.calendar', { date })} date={date} />
}
