'use client'
import { usePathname, useSearchParams } from 'next/navigation'
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react'
import { readDate, shortDate } from '@/core/calendar/date-words'
import { hasSome, staffRoles } from '@/core/people/roles'
import { MakeWorkbook } from '@/ui/table/download'
import { YearLine } from '@/ui/year-line/year-line'
import { NotGone, useGo } from '@/screen/go'
import { useKeyChoice } from '@/screen/key-choice'
import { later, useFetchSoon } from '@/screen/later'
import Link from '@/screen/link'
import { workbookOf } from '@/screen/server'
import { useSaving } from '@/screen/saving'
import { useSchool } from '@/screen/school-context'
import { NarrowBar, type Panel } from './narrow-bar'
import { usePrintFoot } from './print-foot'
import { Rail } from './rail'
import { Who } from './who'

const FindBox = later(() => import('./find-box').then((m) => m.FindBox))
const KeysHelp = later(() => import('./keys-help').then((m) => m.KeysHelp))

/** A page that Back or Forward brings up was made some time ago: it is made again. */
function useFreshAfterBack(): void {
  const go = useGo()
  const at = `${usePathname()}?${useSearchParams()}`
  const back = useRef(false)
  useEffect(() => {
    const pop = () => {
      back.current = true
    }
    const show = (event: PageTransitionEvent) => event.persisted && go.refresh()
    window.addEventListener('popstate', pop)
    window.addEventListener('pageshow', show)
    return () => {
      window.removeEventListener('popstate', pop)
      window.removeEventListener('pageshow', show)
    }
  }, [go])
  useEffect(() => {
    if (back.current) go.refresh()
    back.current = false
  }, [at, go])
}

/** What is open over the page on a narrow screen; closes with Escape, with a press elsewhere, and when one goes on. */
function usePanel(path: string) {
  const [panel, setPanel] = useState<Panel>()
  useEffect(() => setPanel(undefined), [path])
  useEffect(() => {
    if (!panel) return
    const close = () => {
      setPanel(undefined)
      document.querySelector<HTMLElement>(`[data-part=bar] [aria-controls=${panel}]`)?.focus()
    }
    const onKeyDown = (event: KeyboardEvent) => event.key === 'Escape' && close()
    const onPress = (event: PointerEvent) => {
      if (!(event.target as HTMLElement).closest(`#${panel}, [data-part=bar]`)) setPanel(undefined)
    }
    window.addEventListener('keydown', onKeyDown)
    window.addEventListener('pointerdown', onPress)
    return () => {
      window.removeEventListener('keydown', onKeyDown)
      window.removeEventListener('pointerdown', onPress)
    }
  }, [panel])
  return [panel, setPanel] as const
}

/** The frame: year line, rail, who is signed in; Ctrl K finds, ? lists the keys. */
export function Shell({ children }: { children: ReactNode }) {
  const school = useSchool()
  const go = useGo()
  const path = usePathname()
  const { flush } = useSaving()
  const [open, setOpen] = useState<'find' | 'keys'>()
  const { year, date, today } = school
  const [panel, setPanel] = usePanel(path)
  const mayFind = hasSome(school.actor.roles, ...staffRoles)
  const { help } = useKeyChoice()
  useFreshAfterBack()
  usePrintFoot()
  useFetchSoon(mayFind, FindBox)

  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      const typing =
        event.target instanceof HTMLElement &&
        event.target.matches('input:not([type=checkbox]):not([type=radio]), textarea, select')
      if (mayFind && (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault()
        setOpen('find')
      } else if (event.key === '?' && help && !typing) {
        event.preventDefault()
        setOpen('keys')
      }
    }
    window.addEventListener('keydown', onKeyDown)
    return () => window.removeEventListener('keydown', onKeyDown)
  }, [mayFind, help])

  const move = useCallback(
    (to: string) => {
      flush()
      const query = new URLSearchParams(window.location.search)
      if (to === today) query.delete('date')
      else query.set('date', to)
      go.push(query.size > 0 ? `${path}?${query}` : path, { scroll: false })
    },
    [go, path, today, flush],
  )
  return (
    <div className="chart">
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2"
      >
        Skip to content
      </a>
      <header className="contents">
        <div data-part="brand" className="max-lg:hidden border-b border-ink bg-panel px-[18px] py-3">
          <Link href="/" className="block text-[20px] leading-6 font-bold no-underline">
            Kedge
          </Link>
          <span className="block truncate text-[12px] text-muted">{school.schoolName}</span>
        </div>
        <NarrowBar open={panel} onOpen={setPanel} />
        <div
          id="year"
          data-part="year"
          data-open={panel === 'year' || undefined}
          className="bg-paper border-b border-ink border-l border-l-rule max-lg:not-data-open:hidden"
        >
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
        <Who onFind={mayFind ? () => setOpen('find') : undefined} onKeys={() => setOpen('keys')} />
      </header>
      <Rail open={panel === 'places'} />
      <main id="work" tabIndex={-1} className="outline-none">
        <MakeWorkbook value={workbookOf}>{children}</MakeWorkbook>
      </main>
      <NotGone />
      {open === 'find' && <FindBox onClose={() => setOpen(undefined)} />}
      {open === 'keys' && <KeysHelp onClose={() => setOpen(undefined)} />}
    </div>
  )
}
