import { fetchForPage, workingDate } from '@/screen/page-data'
import { GroupsPage } from './groups-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <GroupsPage key={date} initial={await fetchForPage('people.groups', { date })} date={date} />
}
