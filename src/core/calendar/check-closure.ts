import { shortDate } from './date-words'
import type { CivilDate, Span } from './school-year'

/**
 * What is wrong with days without school as they are being entered, each with the path of its field.
 * @param others the closures already in the year, without the one that is edited
 */
export function checkClosure(
  year: Span,
  others: readonly Span[],
  { firstDay, lastDay }: { readonly firstDay: CivilDate; readonly lastDay: CivilDate },
): readonly { readonly path: 'firstDay' | 'lastDay'; readonly message: string }[] {
  if (lastDay < firstDay)
    return [{ path: 'lastDay', message: 'The last day must not be before the first day.' }]
  const outside = (['firstDay', 'lastDay'] as const).filter(
    (path) =>
      (path === 'firstDay' ? firstDay : lastDay) < year.firstDay ||
      (path === 'firstDay' ? firstDay : lastDay) > year.lastDay,
  )
  if (outside.length > 0)
    return outside.map((path) => ({
      path,
      message: `This day is outside ${year.name}, which runs from ${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}.`,
    }))
  const over = others.find((other) => other.firstDay <= lastDay && other.lastDay >= firstDay)
  if (!over) return []
  return [
    {
      path: 'firstDay',
      message: `${over.name} (${shortDate(over.firstDay)}${over.lastDay === over.firstDay ? '' : ` to ${shortDate(over.lastDay)}`}) already covers some of these days.`,
    },
  ]
}
