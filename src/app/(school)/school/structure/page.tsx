import { fetchForPage, workingDate } from '@/screen/page-data'
import { StructurePage } from './structure-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return (
    <StructurePage key={date} initial={await fetchForPage('year.classesAndParts', { date })} date={date} />
  )
}
