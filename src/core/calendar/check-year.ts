import { shortDate } from './date-words'
import { checkClosure } from './check-closure'
import { daysBetween, isCivilDate, type CivilDate, type Span } from './school-year'

export const closureKinds = ['break', 'holiday', 'staff day'] as const
export type ClosureKind = (typeof closureKinds)[number]

const longestYear = 500

export interface YearDraft {
  readonly name: string
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
  readonly terms: readonly {
    readonly name: string
    readonly firstDay: CivilDate
    readonly lastDay: CivilDate
  }[]
  /** Breaks, holidays and staff-only days. */
  readonly closures?: readonly Span[]
}

/** What is wrong with an academic year as it is being entered, each with the path of its field; empty when nothing is. */
export function checkYear({
  name,
  firstDay,
  lastDay,
  terms,
  closures = [],
}: YearDraft): readonly { readonly path: string; readonly message: string }[] {
  const problems: { path: string; message: string }[] = []
  const say = (path: string, message: string) => problems.push({ path, message })
  if (!name.trim()) say('name', 'Enter a name, such as 2026/27.')
  if (!isCivilDate(firstDay)) say('firstDay', 'Enter the first day as a date, such as 1 Sep 2026.')
  if (!isCivilDate(lastDay)) say('lastDay', 'Enter the last day as a date, such as 16 Jul 2027.')
  if (isCivilDate(firstDay) && isCivilDate(lastDay) && firstDay >= lastDay)
    say('lastDay', 'The last day must be after the first day.')
  if (isCivilDate(firstDay) && isCivilDate(lastDay) && daysBetween(firstDay, lastDay) > longestYear)
    say('lastDay', `An academic year has at most ${longestYear} days. Check the years of both dates.`)
  if (terms.length === 0) say('terms', 'Add at least one term.')
  terms.forEach((term, i) => {
    const path = `terms.${i}`
    const before = terms[i - 1]
    if (!term.name.trim()) say(path, `Enter a name for term ${i + 1}.`)
    if (!isCivilDate(term.firstDay) || !isCivilDate(term.lastDay))
      return say(path, `Enter a first and a last day for ${term.name || `term ${i + 1}`}.`)
    if (term.firstDay >= term.lastDay) say(path, `${term.name} must end after its first day.`)
    if (isCivilDate(firstDay) && isCivilDate(lastDay) && (term.firstDay < firstDay || term.lastDay > lastDay))
      say(
        path,
        `${term.name} is partly outside the year. Choose days between ${shortDate(firstDay)} and ${shortDate(lastDay)}.`,
      )
    if (before && isCivilDate(before.lastDay) && term.firstDay <= before.lastDay)
      say(path, `${term.name} starts before ${before.name} ends.`)
  })
  closures.forEach((days, i) => {
    const path = `closures.${i}`
    if (!days.name.trim()) return say(path, 'Enter a name, such as Autumn break.')
    if (!isCivilDate(days.firstDay) || !isCivilDate(days.lastDay))
      return say(path, `Enter a first and a last day for ${days.name || 'these days'}.`)
    if (!isCivilDate(firstDay) || !isCivilDate(lastDay)) return
    for (const { message } of checkClosure({ name, firstDay, lastDay }, closures.slice(0, i), days))
      say(path, message)
  })
  return problems
}

/** A usual academic year of three terms around a date, to begin with: what is different at a school is changed. */
export function usualYear(today: CivilDate) {
  const thisYear = Number(today.slice(0, 4))
  const september = today.slice(5) >= '07-01' ? thisYear : thisYear - 1
  const next = september + 1
  return {
    name: `${september}/${String(next).slice(2)}`,
    firstDay: `${september}-09-01`,
    lastDay: `${next}-07-15`,
    weekdays: [1, 2, 3, 4, 5],
    terms: [
      { name: 'Autumn', firstDay: `${september}-09-01`, lastDay: `${september}-12-18` },
      { name: 'Spring', firstDay: `${next}-01-05`, lastDay: `${next}-03-31` },
      { name: 'Summer', firstDay: `${next}-04-15`, lastDay: `${next}-07-15` },
    ],
    closures: [] as { kind: ClosureKind; name: string; firstDay: string; lastDay: string }[],
  }
}
