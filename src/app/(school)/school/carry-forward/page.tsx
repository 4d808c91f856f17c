import { termShownOn } from '@/core/calendar/school-year'
import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { CarryPage, NoTerm } from './carry-page'

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const { year } = await fetchForPage('year.calendar', { date })
  const termId = (await param(searchParams, 'term')) ?? (year && termShownOn(year, date)?.id)
  if (!year || !termId) return <NoTerm />
  return (
    <CarryPage
      key={termId}
      terms={year.terms.map(({ id, name }) => ({ id, name }))}
      initial={await fetchForPage('carry.plan', { termId })}
    />
  )
}
