import { fetchForPage, workingDate } from '@/screen/page-data'
import { CallsPage } from './calls-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <CallsPage key={date} initial={await fetchForPage('attendance.callList', { date })} date={date} />
}
