import { fetchForPage, workingDate } from '@/screen/page-data'
import { ClassList } from './class-list'

export default async function ClassesPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <ClassList key={date} initial={await fetchForPage('marks.classes', { date })} date={date} />
}
