import { fetchForPage, workingDate } from '@/screen/page-data'
import { TimetablePage } from './timetable-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <TimetablePage key={date} initial={await fetchForPage('timetable.shown', { date })} date={date} />
}
