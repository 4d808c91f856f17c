import { shortDate } from './date-words'
import type { CivilDate, Span } from './school-year'

interface Days {
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
}

/**
 * What is wrong with the days of a marking or exam period as they are being entered.
 * @param term the term it lies in
 * @param others the other periods of its kind
 */
export function checkPeriod(
  term: Span,
  others: readonly Span[],
  days: Days,
): readonly { readonly path: 'firstDay' | 'lastDay'; readonly message: string }[] {
  const span = (of: Days) => `${shortDate(of.firstDay, true)} to ${shortDate(of.lastDay, true)}`
  if (days.lastDay < days.firstDay)
    return [{ path: 'lastDay', message: 'The last day must not be before the first day.' }]
  const outside = (['firstDay', 'lastDay'] as const).filter(
    (path) => days[path] < term.firstDay || days[path] > term.lastDay,
  )
  if (outside.length > 0)
    return outside.map((path) => ({
      path,
      message: `This day is outside ${term.name}, which runs from ${span(term)}.`,
    }))
  const over = others.find((other) => other.firstDay <= days.lastDay && other.lastDay >= days.firstDay)
  return over
    ? [{ path: 'firstDay', message: `${over.name} (${span(over)}) already covers some of these days.` }]
    : []
}
