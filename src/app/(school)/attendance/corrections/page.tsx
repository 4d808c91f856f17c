import { fetchForPage, workingDate } from '@/screen/page-data'
import { CorrectionsPage } from './corrections-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return (
    <CorrectionsPage
      key={date}
      initial={await fetchForPage('attendance.correctable', { date })}
      kept={await fetchForPage('attendance.keptMarks', {})}
      date={date}
    />
  )
}
