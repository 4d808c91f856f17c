import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { SubjectsPage } from './subjects-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const [date, at] = await Promise.all([workingDate(searchParams), param(searchParams, 'at')])
  return (
    <SubjectsPage
      key={date}
      initial={await fetchForPage('year.classesAndParts', { date })}
      date={date}
      at={at}
    />
  )
}
