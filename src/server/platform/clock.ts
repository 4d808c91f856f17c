import { Temporal } from 'temporal-polyfill'
import type { CivilDate } from '@/core/calendar/school-year'
import { isTimeZone } from '@/core/calendar/time-zone'
import { config } from './config'
import { log } from './log'

const started = Date.now()

/** Whether KEDGE_NOW sets the clock; it then runs on from that moment. */
export function clockIsSet(): boolean {
  return config().KEDGE_NOW !== undefined
}

const unknown = new Set<string>()

/** A school whose time zone this machine does not know is served in UTC, and the log says so once. */
function known(timeZone: string): string {
  if (isTimeZone(timeZone)) return timeZone
  if (!unknown.has(timeZone)) log().error({ timeZone }, 'unknown time zone; UTC is used')
  unknown.add(timeZone)
  return 'UTC'
}

/**
 * The present moment; in a demo, KEDGE_NOW (read as the school's local time) plus the time since it was set.
 * KEDGE_NOW_SET_AT says when that was, so that processes agree and a restart does not turn the clock back.
 */
export function now(timeZone: string): Date {
  const set = config().KEDGE_NOW
  if (!set) return new Date()
  const begin = Temporal.PlainDateTime.from(set).toZonedDateTime(known(timeZone)).epochMilliseconds
  return new Date(begin + Date.now() - (config().KEDGE_NOW_SET_AT ?? started))
}

/** The civil date and time of day (HH:MM) where the school is. */
export function localTime(timeZone: string): { readonly date: CivilDate; readonly time: string } {
  const local = Temporal.Instant.fromEpochMilliseconds(now(timeZone).getTime())
    .toZonedDateTimeISO(known(timeZone))
    .toPlainDateTime()
  return { date: local.toPlainDate().toString(), time: local.toPlainTime().toString().slice(0, 5) }
}

/** Today's civil date where the school is. */
export function today(timeZone: string): CivilDate {
  return localTime(timeZone).date
}
