import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { YearGroupsPage } from './year-groups-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const [date, at] = await Promise.all([workingDate(searchParams), param(searchParams, 'at')])
  return (
    <YearGroupsPage
      key={date}
      initial={await fetchForPage('year.classesAndParts', { date })}
      date={date}
      at={at}
    />
  )
}
