import { Temporal } from 'temporal-polyfill'
import type { CivilDate } from '@/core/calendar/school-year'
import { config } from './config'

const started = Date.now()

/** Whether KEDGE_NOW sets the clock; it then runs on from that moment. */
export function clockIsSet(): boolean {
  return config().KEDGE_NOW !== undefined
}

/**
 * The present moment; in a demo, KEDGE_NOW (read as the school's local time) plus the time since it was set.
 * KEDGE_NOW_SET_AT says when that was, so that processes agree and a restart does not turn the clock back.
 */
export function now(timeZone: string): Date {
  const set = config().KEDGE_NOW
  if (!set) return new Date()
  const begin = Temporal.PlainDateTime.from(set).toZonedDateTime(timeZone).epochMilliseconds
  return new Date(begin + Date.now() - (config().KEDGE_NOW_SET_AT ?? started))
}

/** Today's civil date where the school is. */
export function today(timeZone: string): CivilDate {
  return Temporal.Instant.fromEpochMilliseconds(now(timeZone).getTime())
    .toZonedDateTimeISO(timeZone)
    .toPlainDate()
    .toString()
}
