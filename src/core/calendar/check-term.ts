import { shortDate } from './date-words'
import { addDays, type CivilDate, type Span } from './school-year'

interface Days {
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
}

interface Problem {
  readonly path: 'firstDay' | 'lastDay'
  readonly message: string
}

const wholeSpan = ({ firstDay, lastDay }: Days) =>
  `${shortDate(firstDay, true)} to ${shortDate(lastDay, true)}`

/**
 * What is wrong with a term's days as they are being entered.
 * @param others the other terms of the year
 */
export function checkTerm(year: Span, others: readonly Span[], days: Days): readonly Problem[] {
  const { firstDay, lastDay } = days
  if (lastDay <= firstDay) return [{ path: 'lastDay', message: 'The term must end after its first day.' }]
  const outside = (['firstDay', 'lastDay'] as const).filter(
    (path) => days[path] < year.firstDay || days[path] > year.lastDay,
  )
  if (outside.length > 0)
    return outside.map((path) => ({
      path,
      message: `This day is outside ${year.name}, which runs from ${wholeSpan(year)}.`,
    }))
  const over = others.find((other) => other.firstDay <= lastDay && other.lastDay >= firstDay)
  return over
    ? [{ path: 'firstDay', message: `${over.name} (${wholeSpan(over)}) already covers some of these days.` }]
    : []
}

/** Which part, such as a closure of a year or an exam period of a term, would lie outside. */
export function checkHolds(parts: readonly Span[], { firstDay, lastDay }: Days): readonly Problem[] {
  const day = (date: CivilDate) => shortDate(date, true)
  for (const { name, ...part } of parts) {
    if (part.firstDay > lastDay)
      return [{ path: 'lastDay', message: `This leaves out ${name}, from ${day(part.firstDay)}.` }]
    if (part.lastDay < firstDay)
      return [{ path: 'firstDay', message: `This leaves out ${name}, until ${day(part.lastDay)}.` }]
    if (part.firstDay < firstDay)
      return [{ path: 'firstDay', message: `This cuts off ${name}, from ${day(part.firstDay)}.` }]
    if (part.lastDay > lastDay)
      return [{ path: 'lastDay', message: `This cuts off ${name}, until ${day(part.lastDay)}.` }]
  }
  return []
}

/**
 * What is wrong with the days of a year that already has terms and closures.
 * @param parts its terms and closures, which must stay inside it
 * @param others the other years
 */
export function checkYearDays(
  parts: readonly Span[],
  others: readonly Span[],
  { firstDay, lastDay }: Days,
): readonly Problem[] {
  if (lastDay <= firstDay) return [{ path: 'lastDay', message: 'The last day must be after the first day.' }]
  const outside = checkHolds(parts, { firstDay, lastDay })
  if (outside.length > 0) return outside
  const over = others.find((other) => other.firstDay <= lastDay && other.lastDay >= firstDay)
  return over
    ? [{ path: 'firstDay', message: `${over.name} (${wholeSpan(over)}) already covers some of these days.` }]
    : []
}

/** The days that a term loses when it moves: what lies on them is no longer in it. At most two spans. */
export function daysLost(was: Days, becomes: Days): readonly Days[] {
  if (becomes.lastDay < was.firstDay || becomes.firstDay > was.lastDay) return [was]
  const lost: Days[] = []
  if (becomes.firstDay > was.firstDay)
    lost.push({ firstDay: was.firstDay, lastDay: addDays(becomes.firstDay, -1) })
  if (becomes.lastDay < was.lastDay)
    lost.push({ firstDay: addDays(becomes.lastDay, 1), lastDay: was.lastDay })
  return lost
}

/** The periods of a term once it has moved: one that begins or ends with the term goes along. */
export function movedAlong<P extends Span>(periods: readonly P[], was: Days, becomes: Days): readonly P[] {
  return periods.map((p) => ({
    ...p,
    firstDay: p.firstDay === was.firstDay ? becomes.firstDay : p.firstDay,
    lastDay: p.lastDay === was.lastDay ? becomes.lastDay : p.lastDay,
  }))
}

/** The periods that move along with a term, with their new days. */
export function movedWith<P extends Span>(periods: readonly P[], was: Days, becomes: Days): readonly P[] {
  return movedAlong(periods, was, becomes).filter(
    (p, i) => p.firstDay !== periods[i]?.firstDay || p.lastDay !== periods[i]?.lastDay,
  )
}
