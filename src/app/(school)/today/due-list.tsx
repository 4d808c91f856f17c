'use client'
import Link from '@/screen/link'
import { useEffect, useRef } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { buttonLooks } from '@/ui/button'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useLive } from '@/screen/use-live'
import { dayWords } from '@/screen/day-words'
import { FirstSteps } from './first-steps'

/** What waits for the person signed in, in order, one step from the work itself. */
export function DueList({ initial, date }: { initial: QueryOutput<'today.due'>; date: string }) {
  const [answer] = useLive('today.due', { date }, initial)
  const { actor, today, year, term } = useSchool()
  const first = useRef<HTMLAnchorElement>(null)
  useEffect(() => first.current?.focus({ preventScroll: true }), [])
  const title = date === today ? 'Today' : shortDate(date, true)
  if (answer.empty) return <FirstSteps />
  return (
    <div className="sheet max-w-5xl">
      <PageHead title={title} detail={`${shortDate(date, true)}, ${dayWords(answer.day)}`} />
      {answer.items.length === 0 ? (
        <p className="max-w-xl">
          Nothing is waiting for you, {actor.name}.{' '}
          {answer.day?.kind === 'school day'
            ? 'Every register that is yours is complete and no report is due.'
            : `The next school day is ${answer.next ? shortDate(answer.next) : 'in another year'}.`}
        </p>
      ) : (
        <table className="rows">
          <caption className="mb-2 text-left text-muted">
            {answer.items.length === 1
              ? 'One thing waits for you.'
              : `${answer.items.length} things wait for you, the nearest first.`}
          </caption>
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">How it stands</th>
              <th scope="col">Due</th>
              <th scope="col">
                <span className="sr-only">Next step</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {answer.items.map((item, i) => (
              <tr key={item.href + item.what}>
                <th scope="row" className="font-bold">
                  {item.what}
                </th>
                <td className="text-muted">{item.detail}</td>
                <td className={`whitespace-nowrap ${item.overdue ? 'font-bold text-port' : ''}`}>
                  {item.overdue && <span aria-hidden>▲ </span>}
                  {item.overdue ? 'overdue, ' : item.since ? 'since ' : ''}
                  {/^\d/.test(item.due) ? shortDate(item.due) : item.due}
                </td>
                <td className="text-right whitespace-nowrap">
                  <Link
                    href={item.href}
                    ref={i === 0 ? first : undefined}
                    className={i === 0 ? buttonLooks() : 'link'}
                  >
                    {item.act}
                    <span className="sr-only">: {item.what}</span>
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-8 text-[13px] text-muted">
        {year?.name}
        {term && `, ${term.name} term, until ${shortDate(term.lastDay)}`}. Press <kbd>Ctrl K</kbd> to find
        anyone or anything, <kbd>?</kbd> for all keys.
      </p>
    </div>
  )
}
