import { fetchForPage, workingDate } from '@/screen/page-data'
import { SetUpPage } from './set-up-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <SetUpPage key={date} initial={await fetchForPage('year.setUp', { date })} date={date} />
}
