import { fetchForPage, workingDate } from '@/screen/page-data'
import { PlannedPage } from './planned-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <PlannedPage key={date} initial={await fetchForPage('attendance.planned', { date })} date={date} />
}
