import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { RoomsPage } from './rooms-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const [date, at] = await Promise.all([workingDate(searchParams), param(searchParams, 'at')])
  return (
    <RoomsPage
      key={date}
      initial={await fetchForPage('year.classesAndParts', { date })}
      date={date}
      at={at}
    />
  )
}
