'use client'
import type { ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { SavedState } from './saved-state'
import { useSchool } from './school-context'

/** The head of a page: what it is, a few words on it, and whether all is saved. Says plainly when one looks at another day. */
export function PageHead({
  title,
  detail,
  saves = false,
  children,
}: {
  title: string
  detail?: ReactNode
  saves?: boolean
  children?: ReactNode
}) {
  const { date, today } = useSchool()
  return (
    <header className="mb-4">
      {date !== today && (
        <p className="hint mb-3 flex flex-wrap gap-x-3 no-print">
          <span>
            You are looking at <strong>{shortDate(date, true)}</strong>, not at today.
          </span>
          <a className="link" href="?">
            Back to today
          </a>
        </p>
      )}
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1>{title}</h1>
        {detail && <span className="text-muted">{detail}</span>}
        <span className="ml-auto no-print">{saves && <SavedState />}</span>
      </div>
      {children}
    </header>
  )
}
