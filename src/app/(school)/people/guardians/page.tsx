import { fetchForPage, workingDate } from '@/screen/page-data'
import { GuardianList } from './guardian-list'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <GuardianList key={date} initial={await fetchForPage('people.guardians', { date })} date={date} />
}
