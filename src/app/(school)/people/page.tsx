import { fetchForPage, workingDate } from '@/screen/page-data'
import { PeopleList } from './people-list'

export default async function PeoplePage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <PeopleList key={date} initial={await fetchForPage('people.list', { date })} date={date} />
}
