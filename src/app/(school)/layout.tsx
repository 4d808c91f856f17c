import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { isCivilDate } from '@/core/calendar/school-year'
import { ClockProvider } from '@/screen/clock'
import { fetchForPage } from '@/screen/page-data'
import { SavingProvider } from '@/screen/saving'
import { SchoolProvider } from '@/screen/school-context'
import { Shell } from './shell/shell'

/** What stands around every signed-in page. */
export default async function SchoolLayout({ children }: { children: ReactNode }) {
  const path = (await headers()).get('x-kedge-path') ?? '/'
  const asked = new URL(path, 'http://kedge').searchParams.get('date')
  const school = await fetchForPage('shell.frame', { date: asked && isCivilDate(asked) ? asked : undefined })
  return (
    <SchoolProvider school={school}>
      <ClockProvider now={school.now} timeZone={school.timeZone}>
        <SavingProvider accountId={school.actor.accountId} username={school.actor.username}>
          <Shell>{children}</Shell>
        </SavingProvider>
      </ClockProvider>
    </SchoolProvider>
  )
}
