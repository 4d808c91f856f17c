import { fetchForPage, workingDate } from '@/screen/page-data'
import { LessonsPage } from './lessons-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return (
    <LessonsPage key={date} initial={await fetchForPage('attendance.lessonsOfDay', { date })} date={date} />
  )
}
