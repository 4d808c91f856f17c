import { fetchForPage, workingDate } from '@/screen/page-data'
import { DueList } from './due-list'

export default async function TodayPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const [due, lessons, unusual] = await Promise.all([
    fetchForPage('today.due', { date }),
    fetchForPage('attendance.ownLessons', { date }),
    fetchForPage('attendance.unusual', { date }),
  ])
  return <DueList key={date} initial={due} lessons={lessons} unusual={unusual} date={date} />
}
