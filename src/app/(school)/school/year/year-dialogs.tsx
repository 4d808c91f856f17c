import { later } from '@/screen/later'
import type { Opened } from './use-edited-year'
import type { Calendar } from './year'

const TermDialog = later(() => import('./term-dialog').then((m) => m.TermDialog))
const PeriodDialog = later(() => import('./period-dialog').then((m) => m.PeriodDialog))
const YearDialog = later(() => import('./year-dialog').then((m) => m.YearDialog))
const ClosureDialog = later(() => import('./closure-dialog').then((m) => m.ClosureDialog))

/** The dialog of what is being edited. */
export function YearDialogs({
  calendar: { terms, periods, years, closures },
  year,
  edited,
  date,
  onClose,
  onSaved,
}: {
  calendar: Calendar
  year: NonNullable<Calendar['year']>
  edited: Opened
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  return (
    <>
      {edited.kind === 'closure' && (
        <ClosureDialog
          year={year}
          closures={closures}
          edited={closures.find((c) => c.id === edited.id)}
          days={edited.days}
          date={date}
          onClose={onClose}
          onSaved={onSaved}
        />
      )}
      {edited.kind === 'term' && (
        <TermDialog
          year={year}
          terms={terms}
          edited={terms.find((t) => t.id === edited.id)}
          periods={periods.filter((p) => p.termId === edited.id)}
          days={edited.days}
          onClose={onClose}
          onSaved={onSaved}
        />
      )}
      {edited.kind === 'period' && (
        <PeriodDialog
          year={year}
          terms={terms}
          periods={periods}
          edited={periods.find((p) => p.id === edited.id)}
          days={edited.days}
          onClose={onClose}
          onSaved={onSaved}
        />
      )}
      {edited.kind === 'year' && (
        <YearDialog
          year={year}
          version={years.find((y) => y.id === year.id)?.version ?? 0}
          parts={[...terms, ...closures]}
          others={years.filter((y) => y.id !== year.id)}
          onClose={onClose}
          onSaved={onSaved}
        />
      )}
    </>
  )
}
