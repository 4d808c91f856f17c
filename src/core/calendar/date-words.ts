import { addDays, isCivilDate, type CivilDate } from './school-year'

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'] as const
const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const

/** `Mon 23 Nov`, or with the year `Mon 23 Nov 2026`. */
export function shortDate(date: CivilDate, withYear = false): string {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number]
  const weekday = days[new Date(Date.UTC(year, month - 1, day)).getUTCDay()]
  return `${weekday} ${day} ${months[month - 1]}${withYear ? ` ${year}` : ''}`
}

const weekdays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const

/** The name of an ISO weekday: 1 is `Monday`. */
export const weekdayName = (day: number): string => weekdays[day - 1] ?? ''

/** A month of a year in words: `2026-11` is `Nov`. */
export const monthName = (month: string): string => months[Number(month.slice(5)) - 1] ?? ''

function fullYear(twoDigits: number, today: CivilDate): number {
  const thisYear = Number(today.slice(0, 4))
  const inThisCentury = thisYear - (thisYear % 100) + twoDigits
  return inThisCentury <= thisYear + 10 ? inThisCentury : inThisCentury - 100
}

const namedDays: ReadonlyMap<string, number> = new Map([
  ['today', 0],
  ['yesterday', -1],
  ['tomorrow', 1],
])

/**
 * Reads a date as people type it: `2026-11-20`, `20 Nov`, `20.11.`, `20/11/2026`, `20.11.26`, `today`, `yesterday`,
 * `tomorrow`, `+3`, `-1`; the day stands before the month. A date without a year is the one inside
 * [yearFirst, yearLast], the academic year at work. Two digits are a year up to ten years from now, else of the last century.
 * @returns undefined when the text is no date
 */
export function readDate(
  text: string,
  today: CivilDate,
  yearFirst: CivilDate,
  yearLast: CivilDate,
): CivilDate | undefined {
  const typed = text.trim().toLowerCase()
  if (isCivilDate(typed)) return typed
  const named = namedDays.get(typed)
  if (named !== undefined) return addDays(today, named)
  if (/^[+-]\d{1,3}$/.test(typed)) return addDays(today, Number(typed))
  const parts =
    /^(?:[a-z]+,?\s+)?(\d{1,2})(?:[./\s-]+)(\d{1,2}|[a-z]{3,9})\.?(?:[./\s-]+(\d{4}|\d{2}))?\.?$/.exec(typed)
  if (!parts) return undefined
  const [, day = '', monthText = '', yearText] = parts
  const month = /^\d/.test(monthText)
    ? Number(monthText)
    : months.findIndex((m) => monthText.startsWith(m.toLowerCase())) + 1
  const write = (year: number) => `${year}-${String(month).padStart(2, '0')}-${day.padStart(2, '0')}`
  const candidates = yearText
    ? [yearText.length === 4 ? Number(yearText) : fullYear(Number(yearText), today)]
    : [Number(yearFirst.slice(0, 4)), Number(yearLast.slice(0, 4))]
  const dates = candidates.map(write).filter(isCivilDate)
  return dates.find((d) => yearFirst <= d && d <= yearLast) ?? dates[0]
}
