'use client'
import type { ReactNode } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** The head of the pages of the place Attendance, on the chosen date, with the line of those the person may open. */
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
  const { acts, date: chosen, today: now } = useSchool()
  const date = today ? now : chosen
  const more = [
    '/attendance/lessons',
    '/attendance/calls',
    '/attendance/building',
    '/attendance/planned',
    '/attendance/corrections',
    '/attendance/figures',
    '/attendance/letters',
    '/attendance/sheets',
  ].flatMap((href) => acts.find((a) => a.href === href) ?? [])
  return (
    <PageHead
      title={`Attendance on ${shortDate(date)}`}
      page={page}
      pages={more.length > 0 ? [{ name: 'Registers', href: '/attendance/registers' }, ...more] : undefined}
      detail={detail}
      act={act}
    />
  )
}
