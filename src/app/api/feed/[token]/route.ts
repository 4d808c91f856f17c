import { calendarResponse, yearCalendar } from '@/formats/ical/year-calendar'
import { feedActor } from '@/server/platform/feed'
import { notFound } from '@/server/platform/failure'
import { failed } from '@/server/platform/http'
import { executeQuery } from '@/server/platform/run'
import { today } from '@/server/platform/clock'
import { queries, type QueryOutput } from '@/server/registry'

/** A school's years for a calendar program that knows a secret address; every other address is answered alike. */
export async function GET(_request: Request, { params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  const actor = await feedActor(token)
  if (!actor) return failed(notFound)
  const calendar = queries.get('year.calendar')
  const read = await executeQuery(calendar as never, actor, { date: today(actor.timeZone) })
  if (!read.ok) return failed(read.failure)
  const { terms, periods, closures } = read.value as QueryOutput<'year.calendar'>
  return calendarResponse(
    yearCalendar(actor.schoolName, { terms, periods, closures }, new Date()),
    'school-year.ics',
  )
}
