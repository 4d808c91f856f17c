'use client'
import { shortDate } from '@/core/calendar/date-words'
import { useSchool } from '@/screen/school-context'
import { usePlaceName } from './rail'

export type Panel = 'places' | 'year'

const button = 'flex min-h-11 min-w-0 items-center gap-1 px-3 font-bold aria-expanded:bg-shoal'

/** On a narrow screen, in place of the rail and the year line: a button for each, which opens it over the page. */
export function NarrowBar({
  open,
  onOpen,
}: {
  open: Panel | undefined
  onOpen: (panel: Panel | undefined) => void
}) {
  const { date, year } = useSchool()
  const name = usePlaceName()
  const opens = (panel: Panel) => ({
    'aria-expanded': open === panel,
    'aria-controls': panel,
    onClick: () => onOpen(open === panel ? undefined : panel),
  })
  return (
    <div data-part="bar" className="flex items-center border-b border-ink bg-panel lg:hidden no-print">
      <button type="button" className={`${button} border-r border-rule`} {...opens('places')}>
        <span aria-hidden>☰</span>
        <span className="truncate">
          <span className="sr-only">Places, at </span>
          {name}
        </span>
      </button>
      {year && (
        <button type="button" className={`${button} text-magenta`} {...opens('year')}>
          <span className="sr-only">Date: </span>
          {shortDate(date)} <span aria-hidden>▾</span>
        </button>
      )}
    </div>
  )
}
