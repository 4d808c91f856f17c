import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { RegistersOfDay } from './registers-of-day'

export default async function RegistersPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const session = (await param(searchParams, 'session')) === 'afternoon' ? 'afternoon' : 'morning'
  return (
    <RegistersOfDay
      key={date}
      initial={await fetchForPage('attendance.registersOfDay', { date })}
      date={date}
      session={session}
    />
  )
}
