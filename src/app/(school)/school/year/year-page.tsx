'use client'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { UndoableMessage, useUndoable } from '@/screen/undoable'
import { SchoolHead } from '@/app/(school)/school/school-head'
import { Closures, Terms } from './tables'

// Most people only read this page; its forms load where they are used.
const NewYear = dynamic(() => import('./new-year').then((m) => m.NewYear))
const ClosureDialog = later(() => import('./closure-dialog').then((m) => m.ClosureDialog))

export type Calendar = QueryOutput<'year.calendar'>

/** The academic year: its terms, and the days without school, which can move while the year runs. */
export function YearPage({ initial, date }: { initial: Calendar; date: string }) {
  const [{ year, years, closures, mayChange }, refresh] = useLive('year.calendar', { date }, initial)
  const undoable = useUndoable(refresh)
  const [edited, setEdited] = useState<string>()
  const [next, setNext] = useState(false)
  if (!year)
    return (
      <div className="sheet max-w-3xl">
        <SchoolHead title="Year" />
        {mayChange ? (
          <NewYear today={date} onSaved={() => void refresh()} />
        ) : (
          <p>There is no academic year yet. An administrator creates it here.</p>
        )}
      </div>
    )
  const last = years.at(-1)
  if (next && last)
    return (
      <div className="sheet max-w-3xl">
        <SchoolHead
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
    <div className="sheet max-w-5xl">
      <SchoolHead
        title="Year"
        detail={`Academic year ${year.name}, ${shortDate(year.firstDay, true)} to ${shortDate(year.lastDay, true)}`}
        act={mayChange && <Button onClick={() => setEdited('new')}>Add days without school</Button>}
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
      <div className="grid gap-8 lg:grid-cols-[5fr_6fr] [&_tbody]:whitespace-nowrap">
        <section>
          <h2 className="mb-1">Terms</h2>
          <Terms year={year} />
        </section>
        <section>
          <h2 className="mb-1">Days without school</h2>
          <Closures rows={closures} onEdit={mayChange ? setEdited : undefined} />
        </section>
      </div>
      <p className="mt-8">
        Year groups, homerooms, subjects and classes are under{' '}
        <Link className="link" href="/school/structure">
          Structure
        </Link>
        .{' '}
        {mayChange && (
          <button type="button" className="link" onClick={() => setNext(true)}>
            Create the next academic year
          </button>
        )}
      </p>
      {edited && (
        <ClosureDialog
          year={year}
          closures={closures}
          edited={closures.find((c) => c.id === edited)}
          date={date}
          onClose={() => setEdited(undefined)}
          onSaved={(words, run) => {
            setEdited(undefined)
            undoable.done(words, run)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
