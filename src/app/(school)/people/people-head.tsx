'use client'
import type { ReactNode } from 'react'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** The head of the lists of the place People, with the line of those the person may open. */
export function PeopleHead({
  page,
  detail,
  act,
}: {
  page: 'Students' | 'Guardians' | 'Groups'
  detail?: ReactNode
  act?: ReactNode
}) {
  const { acts } = useSchool()
  const more = ['/people/guardians', '/people/groups'].flatMap(
    (href) => acts.find((a) => a.href === href) ?? [],
  )
  return (
    <PageHead
      title="People"
      page={page}
      pages={[{ name: 'Students', href: '/people' }, ...more]}
      detail={detail}
      act={act}
    />
  )
}
