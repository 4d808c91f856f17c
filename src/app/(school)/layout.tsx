import { headers } from 'next/headers'
import type { ReactNode } from 'react'
import { isCivilDate } from '@/core/calendar/school-year'
import { NuqsAdapter } from 'nuqs/adapters/next/app'
import { AnnounceProvider } from '@/screen/announce'
import { ClockProvider } from '@/screen/clock'
import { KeysProvider } from '@/screen/keys'
import { fetchForPage } from '@/screen/page-data'
import { AnswersProvider } from '@/screen/query-client'
import { SavingProvider } from '@/screen/saving'
import { SchoolProvider } from '@/screen/school-context'
import { WorkProvider } from '@/screen/work'
import { Shell } from './shell/shell'

/** What stands around every signed-in page. */
export default async function SchoolLayout({ children }: { children: ReactNode }) {
  const path = (await headers()).get('x-kedge-path') ?? '/'
  const asked = new URL(path, 'http://kedge').searchParams.get('date')
  const school = await fetchForPage('shell.frame', { date: asked && isCivilDate(asked) ? asked : undefined })
  const { schoolId, deviceKey } = school
  const { accountId, username, name } = school.actor
  return (
    <NuqsAdapter>
      <AnswersProvider>
        <ClockProvider now={school.now} timeZone={school.timeZone}>
          <AnnounceProvider>
            <KeysProvider>
              <SavingProvider owner={{ accountId, username, name, schoolId, deviceKey }}>
                <SchoolProvider school={school}>
                  <WorkProvider drawn={school.work}>
                    <Shell>{children}</Shell>
                  </WorkProvider>
                </SchoolProvider>
              </SavingProvider>
            </KeysProvider>
          </AnnounceProvider>
        </ClockProvider>
      </AnswersProvider>
    </NuqsAdapter>
  )
}
