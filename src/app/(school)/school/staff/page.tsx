import { fetchForPage, workingDate } from '@/screen/page-data'
import { StaffList } from './staff-list'

export default async function StaffPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <StaffList key={date} initial={await fetchForPage('staffing.list', { date })} date={date} />
}
