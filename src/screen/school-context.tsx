'use client'
import { useSearchParams } from 'next/navigation'
import { createContext, useContext, useMemo, type ReactNode } from 'react'
import { isCivilDate, termShownOn } from '@/core/calendar/school-year'
import type { QueryOutput } from '@/server/registry'
import { useLive } from './use-live'

type School = QueryOutput<'shell.frame'>

const SchoolContext = createContext<School | undefined>(undefined)

/** Gives a page's parts the school, the year, the date one works in and who is signed in; follows what is due. */
export function SchoolProvider({ school: drawn, children }: { school: School; children: ReactNode }) {
  const asked = useSearchParams().get('date')
  const date = asked && isCivilDate(asked) ? asked : drawn.today
  const [school] = useLive('shell.frame', { date: asked ? date : undefined }, drawn, { every: 2000 })
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
