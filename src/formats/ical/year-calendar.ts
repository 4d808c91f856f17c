import ical, { ICalEventBusyStatus, ICalEventTransparency } from 'ical-generator'

interface Days {
  readonly id: string
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string
}

/** A civil date as the whole day it is, wherever the calendar program runs. */
const day = (date: string, later = 0) => {
  const at = new Date(`${date}T00:00:00Z`)
  at.setUTCDate(at.getUTCDate() + later)
  return at
}

/**
 * Terms and days without school as iCalendar (RFC 5545): whole days, each with an identifier that stays, so that a
 * calendar program moves an event and does not add it again.
 * @param stamp when it was made, for programs that compare
 */
export function yearCalendar(
  school: string,
  parts: {
    readonly terms: readonly Days[]
    readonly periods?: readonly Days[]
    readonly closures: readonly Days[]
  },
  stamp: Date,
): string {
  const calendar = ical({
    name: school,
    prodId: { company: 'Kedge', product: 'School year', language: 'EN' },
    ttl: 6 * 3600,
  })
  const events = [
    ...parts.terms.map((t) => ({ ...t, name: `${t.name} term`, busy: false })),
    ...(parts.periods ?? []).map((p) => ({ ...p, busy: false })),
    ...parts.closures.map((c) => ({ ...c, busy: true })),
  ]
  for (const { id, name, firstDay, lastDay, busy } of events)
    calendar.createEvent({
      id: `${id}@kedge`,
      summary: name,
      allDay: true,
      start: day(firstDay),
      // The end of an event is the day after its last.
      end: day(lastDay, 1),
      timezone: 'UTC',
      stamp,
      transparency: busy ? ICalEventTransparency.OPAQUE : ICalEventTransparency.TRANSPARENT,
      busystatus: busy ? ICalEventBusyStatus.OOF : ICalEventBusyStatus.FREE,
    })
  return calendar.toString()
}

/** The answer that carries a calendar. */
export const calendarResponse = (text: string, name: string) =>
  new Response(text, {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'X-Content-Type-Options': 'nosniff',
      'Cache-Control': 'private, no-store',
    },
  })
