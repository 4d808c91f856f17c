'use client'
import Link from '@/screen/link'
import { usePathname, useRouter } from 'next/navigation'
import { useCallback, useEffect, useState, type ReactNode } from 'react'
import { readDate, shortDate } from '@/core/calendar/date-words'
import { YearLine } from '@/ui/year-line/year-line'
import { useSchool } from '@/screen/school-context'
import { FindBox } from './find-box'
import { KeysHelp } from './keys-help'
import { Rail } from './rail'
import { Who } from './who'

/** The frame: year line, rail, who is signed in; Ctrl K finds, ? lists the keys. */
export function Shell({ children }: { children: ReactNode }) {
  const school = useSchool()
  const router = useRouter()
  const path = usePathname()
  const [open, setOpen] = useState<'find' | 'keys'>()
  const { year, date, today } = school

  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.matches('input:not([type=checkbox]):not([type=radio]), textarea, select')
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault()
        setOpen('find')
      } else if (event.key === '?' && !typing) {
        event.preventDefault()
        setOpen('keys')
      }
    }
    window.addEventListener('keydown', onKeyDown)
    return () => window.removeEventListener('keydown', onKeyDown)
  }, [])

  const move = useCallback(
    (to: string) => {
      const query = new URLSearchParams(window.location.search)
      if (to === today) query.delete('date')
      else query.set('date', to)
      router.push(query.size > 0 ? `${path}?${query}` : path, { scroll: false })
    },
    [router, path, today],
  )
  return (
    <div className="chart">
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2"
      >
        To the work on this page
      </a>
      <header className="contents">
        <div data-part="brand" className="border-b border-ink bg-panel px-[18px] py-3">
          <Link href="/" className="block text-[20px] leading-6 font-bold no-underline">
            Kedge
          </Link>
          <span className="block truncate text-[12px] text-muted">{school.schoolName}</span>
        </div>
        <div data-part="year" className="bg-paper border-b border-ink border-l border-l-rule">
          {year && (
            <YearLine
              firstDay={year.firstDay}
              lastDay={year.lastDay}
              water={year.terms}
              land={year.closures}
              flags={school.flags}
              date={date}
              today={today}
              labelOf={shortDate}
              readTyped={(text) => readDate(text, today, year.firstDay, year.lastDay)}
              onMove={move}
            />
          )}
        </div>
        <Who onFind={() => setOpen('find')} onKeys={() => setOpen('keys')} />
      </header>
      <Rail />
      <main id="work">{children}</main>
      {open === 'find' && <FindBox onClose={() => setOpen(undefined)} />}
      {open === 'keys' && <KeysHelp onClose={() => setOpen(undefined)} />}
    </div>
  )
}
