import { shortDate } from './date-words'
import { isCivilDate, type CivilDate } from './school-year'

export interface YearDraft {
  readonly name: string
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
  readonly terms: readonly {
    readonly name: string
    readonly firstDay: CivilDate
    readonly lastDay: CivilDate
  }[]
}

/** What is wrong with an academic year as it is being entered, each with the path of its field; empty when nothing is. */
export function checkYear({
  name,
  firstDay,
  lastDay,
  terms,
}: YearDraft): readonly { readonly path: string; readonly message: string }[] {
  const problems: { path: string; message: string }[] = []
  const say = (path: string, message: string) => problems.push({ path, message })
  if (!name.trim()) say('name', 'The year needs a name, such as 2026/27.')
  if (!isCivilDate(firstDay)) say('firstDay', 'The first day is no date yet. Write it as 1 Sep 2026.')
  if (!isCivilDate(lastDay)) say('lastDay', 'The last day is no date yet. Write it as 16 Jul 2027.')
  if (isCivilDate(firstDay) && isCivilDate(lastDay) && firstDay >= lastDay)
    say('lastDay', 'The last day must come after the first.')
  if (terms.length === 0) say('terms', 'A year needs at least one term.')
  terms.forEach((term, i) => {
    const path = `terms.${i}`
    const before = terms[i - 1]
    if (!term.name.trim()) say(path, `Term ${i + 1} needs a name.`)
    if (!isCivilDate(term.firstDay) || !isCivilDate(term.lastDay))
      return say(path, `${term.name || `Term ${i + 1}`} needs a first and a last day.`)
    if (term.firstDay >= term.lastDay) say(path, `${term.name} must end after it begins.`)
    if (isCivilDate(firstDay) && isCivilDate(lastDay) && (term.firstDay < firstDay || term.lastDay > lastDay))
      say(
        path,
        `${term.name} lies partly outside the year, which runs from ${shortDate(firstDay)} to ${shortDate(lastDay)}.`,
      )
    if (before && isCivilDate(before.lastDay) && term.firstDay <= before.lastDay)
      say(path, `${term.name} begins before ${before.name} has ended.`)
  })
  return problems
}
