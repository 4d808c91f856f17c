'use client'
import { useSearchParams } from 'next/navigation'
import { memo, useEffect, type ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import Link from './link'
import { useSchool } from './school-context'
import { StatusLine } from './status-line'

export interface PageOf {
  readonly name: string
  readonly href: string
}

/** The pages of one object, in a line under its title, the same on each of them. */
function Pages({ pages, at, of }: { pages: readonly PageOf[]; at: string; of: string }) {
  return (
    <nav aria-label={`Pages of ${of}`} className="mt-2 no-print">
      <ul className="flex flex-wrap gap-x-5 gap-y-2">
        {pages.map(({ name, href }) => (
          <li key={name}>
            <Link
              className={name === at ? 'border-b-2 border-magenta pb-[2px] font-bold no-underline' : 'link'}
              aria-current={name === at ? 'page' : undefined}
              href={href}
            >
              {name}
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  )
}

/** Says plainly that the page shows another day than today. */
function OtherDay() {
  const { date, today } = useSchool()
  const query = new URLSearchParams(useSearchParams())
  if (date === today) return null
  query.delete('date')
  return (
    <p className="hint mb-3 flex flex-wrap gap-x-3 no-print">
      <span>
        You are looking at <strong>{shortDate(date, true)}</strong>, not today.
      </span>
      <Link dated={false} className="link" href={`?${query}`}>
        Back to today
      </Link>
    </p>
  )
}

/**
 * The head of a page: object and page, a few words on it, the main act, and whether all is saved. Drawn again only when
 * it changes, since pages that are typed into are drawn at every key.
 * @param title the object, or the place
 * @param page the page of that object, where it has several
 */
export const PageHead = memo(function PageHead({
  title,
  page,
  pages,
  detail,
  act,
  saves = false,
  children,
}: {
  title: string
  page?: string
  pages?: readonly PageOf[]
  detail?: ReactNode
  /** The one main act of the page, and what belongs beside it. */
  act?: ReactNode
  saves?: boolean
  children?: ReactNode
}) {
  const whole = page ? `${title}, ${page.toLowerCase()}` : title
  // Says that the page has come to life; what waits for that, waits for this.
  useEffect(() => {
    document.body.dataset.page = whole
    return () => {
      delete document.body.dataset.page
    }
  }, [whole])
  return (
    <header className="mb-4">
      <title>{`${whole} · Kedge`}</title>
      <OtherDay />
      <div className="flex flex-wrap items-start justify-end gap-x-6 gap-y-1">
        <div className="flex min-w-0 flex-1 basis-80 flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1>{whole}</h1>
          {detail && <span className="text-muted">{detail}</span>}
        </div>
        <div className="grid max-w-full flex-none justify-items-end gap-1">
          {act && <div className="flex max-w-full flex-wrap justify-end gap-3 no-print">{act}</div>}
          <StatusLine saves={saves} />
        </div>
      </div>
      {pages && page && pages.length > 1 && <Pages pages={pages} at={page} of={title} />}
      {children}
    </header>
  )
})
