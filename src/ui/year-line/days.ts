const day = 86_400_000

/** The number of a civil date, counted from 1 January 1970. */
export const toDay = (date: string): number => Math.round(Date.parse(`${date}T00:00:00Z`) / day)

/** The civil date of a day's number. */
export const toDate = (n: number): string => new Date(n * day).toISOString().slice(0, 10)

export const clamp = (x: number, low: number, high: number): number => Math.min(high, Math.max(low, x))

/** The first days of the months between two days, and how each is called. */
export function monthsBetween(first: number, last: number): readonly { date: string; name: string }[] {
  const months: { date: string; name: string }[] = []
  for (let n = first; n <= last; n++) {
    const date = toDate(n)
    if (date.endsWith('-01'))
      months.push({
        date,
        name: new Date(n * day).toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' }),
      })
  }
  return months
}
