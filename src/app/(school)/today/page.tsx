import { fetchForPage, workingDate } from '@/screen/page-data'
import { DueList } from './due-list'

export default async function TodayPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <DueList key={date} initial={await fetchForPage('today.due', { date })} date={date} />
}
