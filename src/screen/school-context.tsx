'use client'
import { usePathname, useSearchParams } from 'next/navigation'
import { createContext, useContext, useEffect, useMemo, useRef, type ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate, termShownOn } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { useAnnounce } from './announce'
import { useClock } from './clock'
import { useSaving } from './saving'
import { useGo } from './go'
import { useLive } from './use-live'

type School = QueryOutput<'shell.frame'>

const SchoolContext = createContext<School | undefined>(undefined)

const minute = 60_000

/** A page that is left open overnight moves on to the new day, once what was typed is saved under the old one. */
function useNewDay(shownToday: string, dated: boolean, refresh: () => Promise<void>): void {
  const go = useGo()
  const { today } = useClock()
  const { flush } = useSaving()
  const say = useAnnounce()
  const latest = useRef({ shownToday, dated, refresh })
  useEffect(() => {
    latest.current = { shownToday, dated, refresh }
  })
  useEffect(() => {
    const look = () => {
      const now = today()
      if (now === '' || now === latest.current.shownToday) return
      flush()
      void latest.current.refresh()
      if (latest.current.dated) return
      go.refresh()
      say(`It is ${shortDate(now)} now. This page shows the new day.`)
    }
    const timer = setInterval(look, minute)
    document.addEventListener('visibilitychange', look)
    return () => {
      clearInterval(timer)
      document.removeEventListener('visibilitychange', look)
    }
  }, [today, flush, go, say])
}

/** Gives a page's parts the school, the year, the chosen date and who is signed in; follows what is due. */
export function SchoolProvider({ school: drawn, children }: { school: School; children: ReactNode }) {
  const asked = useSearchParams().get('date')
  const path = usePathname()
  const chosen = asked && isCivilDate(asked) ? asked : undefined
  const [school, refresh] = useLive('shell.frame', { date: chosen }, drawn, { every: 2000 })
  const date = chosen ?? school.today
  useNewDay(school.today, chosen !== undefined, refresh)
  // A page that is gone to was made for whoever is signed in now; asking as this page's person tells when that is another.
  const first = useRef(true)
  useEffect(() => {
    if (first.current) first.current = false
    else void refresh()
  }, [path, refresh])
  const value = useMemo(
    () => ({ ...school, date, term: school.year && termShownOn(school.year, date) }),
    [school, date],
  )
  return <SchoolContext.Provider value={value}>{children}</SchoolContext.Provider>
}

/** The school around this page. */
export function useSchool(): School {
  const school = useContext(SchoolContext)
  if (!school) throw new Error('this part stands only on a signed-in page')
  return school
}
