'use client'
import type { ReactNode } from 'react'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** The head of the pages of the place School, with the line of those the person may open. */
export function SchoolHead({
  title,
  detail,
  act,
}: {
  title:
    | 'Year'
    | 'Set-up'
    | 'Structure'
    | 'Grading scales'
    | 'Attendance codes'
    | 'Timetable'
    | 'Staff accounts'
    | 'Carry forward'
    | 'Set-up check'
    | 'Settings'
    | 'Mail'
  detail?: ReactNode
  act?: ReactNode
}) {
  const { acts, schoolName } = useSchool()
  const more = [
    '/school/structure',
    '/school/scales',
    '/school/codes',
    '/school/timetable',
    '/school/staff',
    '/school/set-up',
    '/school/check',
    '/school/carry-forward',
    '/school/settings',
    '/school/mail',
  ].flatMap((href) => acts.find((a) => a.href === href) ?? [])
  return (
    <PageHead
      title={schoolName}
      page={title}
      pages={[{ name: 'Year', href: '/school/year' }, ...more]}
      detail={detail}
      act={act}
    />
  )
}
