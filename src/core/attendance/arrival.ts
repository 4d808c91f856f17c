import { limits } from '@/core/limits'
import { minutesOf } from '@/core/timetable/timetable'

/** What was written as being late: minutes, or what is wrong with it. */
export type Lateness = { readonly minutes: number | null } | { readonly problem: string }

/**
 * Reads how late somebody was: as minutes (12), or as the time of arrival (9:02), from which the minutes follow.
 * @param starts when the session began, HH:MM; undefined where nothing says so
 */
export function readLateness(text: string, starts: string | undefined): Lateness {
  const typed = text.trim()
  if (typed === '') return { minutes: null }
  if (/^\d{1,3}$/.test(typed)) {
    const minutes = Number(typed)
    return minutes <= limits.minutesLate
      ? { minutes }
      : { problem: `Minutes late must be at most ${limits.minutesLate}.` }
  }
  const [, hours, minutes] = /^([01]?\d|2[0-3])[:.]([0-5]\d)$/.exec(typed) ?? []
  if (hours === undefined || minutes === undefined)
    return { problem: `"${typed}" is neither minutes nor a time, such as 12 or 9:02.` }
  if (starts === undefined)
    return { problem: 'The timetable does not say when this session starts. Enter minutes instead.' }
  const late = minutesOf(`${hours}:${minutes}`) - minutesOf(starts)
  if (late < 0) return { problem: `${typed} is before the session started at ${starts}.` }
  return late <= limits.minutesLate ? { minutes: late } : { problem: `${typed} is too long after ${starts}.` }
}

/** The time of arrival, HH:MM, from the minutes; undefined where nothing says when the session began. */
export function arrivalTime(minutesLate: number, starts: string | undefined): string | undefined {
  if (starts === undefined) return undefined
  const at = minutesOf(starts) + minutesLate
  return at >= 24 * 60
    ? undefined
    : `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`
}
