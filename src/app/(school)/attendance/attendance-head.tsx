'use client'
import type { ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** The head of the pages of the place Attendance, on the chosen date. */
export function AttendanceHead({
  page,
  detail,
  act,
  today = false,
}: {
  page:
    | 'Registers'
    | 'Lessons'
    | 'In the building'
    | 'Figures'
    | 'Letters'
    | 'Sheets'
    | 'Call list'
    | 'Planned absence'
    | 'Corrections'
  detail?: ReactNode
  act?: ReactNode
  /** The page is about now, whichever date is chosen. */
  today?: boolean
}) {
  const { date: chosen, today: now } = useSchool()
  return <PageHead title={`${page}, ${shortDate(today ? now : chosen)}`} detail={detail} act={act} />
}
