'use client'
import type { ReactNode } from 'react'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** The head of the pages of the place School, with the line of those the person may open. */
export function SchoolHead({ title, detail }: { title: 'Year' | 'Mail'; detail?: ReactNode }) {
  const { acts, schoolName } = useSchool()
  const mail = acts.filter((act) => act.href === '/school/mail')
  return (
    <PageHead
      title={schoolName}
      page={title}
      pages={[{ name: 'Year', href: '/school/year' }, ...mail]}
      detail={detail}
    />
  )
}
