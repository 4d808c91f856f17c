'use client'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import { Button } from '@/ui/button'
import { YearEditor } from '@/ui/year-line/year-editor'
import { useClock } from '@/screen/clock'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { UndoableMessage } from '@/screen/undoable'
import { CalendarFeed } from './calendar-feed'
import { Closures, Periods, SchoolDayCounts, Terms } from './tables'
import { openedBy, useEditedYear } from './use-edited-year'
import type { Calendar, Days } from './year'
import { YearDialogs } from './year-dialogs'

// Most people only read this page; what makes a year loads where it is used.
const NewYear = later(() => import('./new-year').then((m) => m.NewYear))
/** The academic year: its terms, and the days without school, which can move while the year runs. */
export function YearPage({ initial, date }: { initial: Calendar; date: string }) {
  const [shown, refresh] = useLive('year.calendar', { date }, initial)
  const { year, terms, periods, years, closures, mayChange } = shown
  const clock = useClock()
  const { undoable, edited, setEdited, close, saved, typing, openTerm } = useEditedYear(mayChange, refresh)
  const [next, setNext] = useState(false)
  if (!year)
    return (
      <div className="sheet reading">
        <PageHead title="Year" />
        {mayChange ? (
          <NewYear today={date} onSaved={() => void refresh()} />
        ) : (
          <p>There is no academic year yet. An administrator creates it here.</p>
        )}
      </div>
    )
  const last = years.at(-1)
  const after = years.find((y) => y.firstDay > year.lastDay)
  if (next && last)
    return (
      <div className="sheet reading">
        <PageHead
          title="Year"
          detail={`The year after ${last.name}`}
          act={
            <Button kind="plain" onClick={() => setNext(false)}>
              Cancel
            </Button>
          }
        />
        <NewYear
          today={addDays(last.lastDay, 1)}
          onSaved={(name) => {
            setNext(false)
            undoable.done(`The academic year ${name} was created. Choose it in the line above the terms.`)
            void refresh()
          }}
        />
      </div>
    )
  return (
    <div className="sheet">
      <PageHead
        title="Year"
        detail={`Academic year ${year.name}, ${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}`}
        act={
          mayChange && <Button onClick={() => setEdited({ kind: 'closure' })}>Add days without school</Button>
        }
      />
      <UndoableMessage of={undoable} />
      {years.length > 1 && (
        <ul className="mb-4 flex flex-wrap gap-x-5" aria-label="Academic years">
          {years.map((y) => (
            <li key={y.id}>
              <Link
                href={`/school/year?date=${y.firstDay}`}
                className={y.id === year.id ? 'font-bold no-underline' : 'link'}
                aria-current={y.id === year.id ? 'true' : undefined}
              >
                {y.name}
              </Link>
            </li>
          ))}
        </ul>
      )}
      <div className="mb-6">
        <YearEditor
          firstDay={year.firstDay}
          lastDay={year.lastDay}
          parts={[
            ...terms.map((t) => ({ ...t, key: `term ${t.id}`, look: 'water' as const })),
            ...closures.map((c) => ({ ...c, key: `closure ${c.id}`, look: 'land' as const })),
            ...periods.map((p) => ({
              ...p,
              key: `period ${p.id}`,
              look: p.kind === 'marking' ? ('upper' as const) : ('lower' as const),
            })),
          ]}
          labelOf={(day) => shortDate(day)}
          {...(mayChange
            ? {
                onDays: (key: string, days: Days) => setEdited(openedBy(key, days)),
                onOpen: (key: string) => setEdited(openedBy(key)),
                onDraw: (days: Days) => setEdited({ kind: 'closure', days }),
              }
            : {})}
        />
        {mayChange && (
          <p className="mt-1 text-[13px] text-muted max-md:hidden no-print">
            Drag an edge to move it, click a break or a period to open it, or draw over days on which there is
            no school. The change is saved when you select Save in the dialog.
          </p>
        )}
      </div>
      <div className="grid max-w-4xl gap-8 grid-cols-[minmax(0,1fr)] max-lg:[&_section]:relative max-lg:[&_section]:overflow-x-auto [&_tbody]:whitespace-nowrap">
        <section>
          <h2 className="mb-1">Terms</h2>
          <Terms
            year={year}
            terms={terms}
            periods={periods}
            typing={typing('term')}
            onEdit={mayChange ? (id) => setEdited({ kind: 'term', id }) : undefined}
            onOpen={mayChange ? (term) => void openTerm(term) : undefined}
          />
          {mayChange && (
            <p className="mt-3 flex flex-wrap gap-3">
              <Button kind="plain" onClick={() => setEdited({ kind: 'term' })}>
                Add a term
              </Button>
              <Button kind="plain" onClick={() => setEdited({ kind: 'year' })}>
                Edit the year
              </Button>
            </p>
          )}
          {(periods.length > 0 || mayChange) && (
            <div className="mt-6">
              <h2 className="mb-1">Periods within the terms</h2>
              <Periods
                year={year}
                terms={terms}
                rows={periods}
                typing={typing('period')}
                onEdit={mayChange ? (id) => setEdited({ kind: 'period', id }) : undefined}
              />
              {mayChange && terms.length > 0 && (
                <p className="mt-3">
                  <Button kind="plain" onClick={() => setEdited({ kind: 'period' })}>
                    Add a period
                  </Button>
                </p>
              )}
            </div>
          )}
          <div className="mt-5">
            <SchoolDayCounts year={year} />
          </div>
        </section>
        <section>
          <h2 className="mb-1">Days without school</h2>
          <Closures
            year={year}
            rows={closures}
            typing={typing('closure')}
            onEdit={mayChange ? (id) => setEdited({ kind: 'closure', id }) : undefined}
          />
        </section>
      </div>
      <p className="mt-8">
        {after ? (
          <>
            {after.by && after.at
              ? `${after.by} created ${after.name} on ${clock.moment(after.at)}. `
              : `The year after this one is ${after.name}. `}
            <Link className="link" href={`/school/year?date=${after.firstDay}`}>
              Open {after.name}
            </Link>
          </>
        ) : (
          mayChange && (
            <button type="button" className="link" onClick={() => setNext(true)}>
              Create the next academic year
            </button>
          )
        )}
      </p>
      <CalendarFeed date={date} year={year} />
      {edited && <YearDialogs {...{ calendar: shown, year, edited, date, onClose: close, onSaved: saved }} />}
    </div>
  )
}
