import { Temporal } from 'temporal-polyfill'
import type { CivilDate } from '@/core/calendar/school-year'
import { config } from './config'

const started = Date.now()

/** Whether KEDGE_NOW sets the clock; it then runs on from that moment. */
export function clockIsSet(): boolean {
  return config().KEDGE_NOW !== undefined
}

/** The present moment; in a demo, KEDGE_NOW (read as the school's local time) plus the time since the start. */
export function now(timeZone: string): Date {
  const set = config().KEDGE_NOW
  if (!set) return new Date()
  const begin = Temporal.PlainDateTime.from(set).toZonedDateTime(timeZone).epochMilliseconds
  return new Date(begin + Date.now() - started)
}

/** Today's civil date where the school is. */
export function today(timeZone: string): CivilDate {
  return Temporal.Instant.fromEpochMilliseconds(now(timeZone).getTime()).toZonedDateTimeISO(timeZone).toPlainDate().toString()
}
