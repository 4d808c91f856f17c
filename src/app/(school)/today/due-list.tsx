'use client'
import { useEffect } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { dayWords } from '@/core/calendar/day-words'
import { hasSome } from '@/core/people/roles'
import type { QueryOutput } from '@/server/registry'
import { buttonLooks } from '@/ui/button'
import { DataTable } from '@/ui/table/data-table'
import type { Column } from '@/ui/table/column'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { FirstSteps, NextSteps } from './first-steps'
import { OwnLessons } from './own-lessons'
import { UnusualToday } from './unusual'

type Due = QueryOutput<'today.due'>['items'][number]

const columns: readonly Column<Due>[] = [
  { id: 'what', title: 'Task', heading: true, className: 'font-bold', cell: (item) => item.what },
  { id: 'detail', title: 'Status', className: 'text-muted', cell: (item) => item.detail },
  {
    id: 'due',
    title: 'Due',
    className: 'whitespace-nowrap',
    cell: (item) => (
      <span className={item.overdue ? 'font-bold text-port' : ''}>
        {item.overdue && <span aria-hidden>▲ </span>}
        {item.overdue ? 'overdue, ' : item.since ? 'since ' : ''}
        {/^\d/.test(item.due) ? shortDate(item.due) : item.due}
      </span>
    ),
  },
  {
    id: 'act',
    title: 'Next step',
    quiet: true,
    className: 'text-right whitespace-nowrap',
    cell: (item, i) => (
      <Link href={item.href} data-first={i === 0 || undefined} className={i === 0 ? buttonLooks() : 'link'}>
        {item.act}
        <span className="sr-only">: {item.what}</span>
      </Link>
    ),
  },
]

/** What is due for the person signed in, in order, each one step from the work itself. */
export function DueList({
  initial,
  lessons,
  unusual,
  date,
}: {
  initial: QueryOutput<'today.due'>
  lessons: QueryOutput<'attendance.ownLessons'>
  unusual: QueryOutput<'attendance.unusual'>
  date: string
}) {
  const [answer] = useLive('today.due', { date }, initial)
  const { actor, today, year, term } = useSchool()
  useEffect(() => {
    // The find box may be open before the list has come to life: what is being typed stays where it is.
    if (document.querySelector('[role=dialog]')) return
    document.querySelector<HTMLElement>('[data-first]')?.focus({ preventScroll: true })
  }, [])
  const { items, day, next } = answer
  if (answer.empty) return <FirstSteps />
  return (
    <div className="sheet">
      <PageHead
        title={date === today ? 'Today' : shortDate(date, true)}
        detail={`${shortDate(date, true)}, ${dayWords(day)}`}
      />
      {!answer.begun && hasSome(actor.roles, 'administrator') && <NextSteps />}
      <DataTable
        label="Tasks"
        rows={items}
        columns={columns}
        rowKey={(item) => item.href + item.what}
        caption={items.length === 1 ? '1 task' : `${items.length} tasks, the nearest first`}
        empty={
          <p>
            No tasks, {actor.name}.{' '}
            {day?.kind === 'school day'
              ? answer.begun
                ? 'All your registers are complete and no report is due.'
                : 'No register has been taken yet.'
              : next
                ? `The next school day is ${shortDate(next)}.`
                : 'There are no more school days in this academic year.'}
          </p>
        }
      />
      <OwnLessons initial={lessons} date={date} />
      <UnusualToday initial={unusual} date={date} />
      <p className="mt-8 text-[13px] text-muted">
        {year?.name}
        {term && `, ${term.name} term, until ${shortDate(term.lastDay)}`}. Press <kbd>Ctrl K</kbd> to find
        anyone or anything, <kbd>?</kbd> for all keys.
      </p>
    </div>
  )
}
