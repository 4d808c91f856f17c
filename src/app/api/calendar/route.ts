import { calendarResponse, yearCalendar } from '@/formats/ical/year-calendar'
import { asActor, failed } from '@/server/platform/http'
import { executeQuery } from '@/server/platform/run'
import { queries } from '@/server/registry'
import type { QueryOutput } from '@/server/registry'

/** The academic year around a date as an iCalendar file. */
export async function GET(request: Request) {
  const calendar = queries.get('year.calendar')
  const date = new URL(request.url).searchParams.get('date')
  return asActor(request, async (actor) => {
    const read = await executeQuery(calendar as never, actor, { date })
    if (!read.ok) return failed(read.failure)
    const { year, terms, periods, closures } = read.value as QueryOutput<'year.calendar'>
    const text = yearCalendar(actor.schoolName, { terms, periods, closures }, new Date())
    return calendarResponse(text, `${actor.schoolName} ${year?.name ?? ''}.ics`.replaceAll('/', '-'))
  })
}
