import { fetchForPage, workingDate } from '@/screen/page-data'
import { CheckPage } from './check-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <CheckPage key={date} initial={await fetchForPage('year.setUpCheck', { date })} date={date} />
}
