import type { Metadata } from 'next'
import { fetchForPage, param, workingDate } from '@/screen/page-data'
import { ClassList } from './class-list'

export const metadata: Metadata = { title: 'Classes' }

export default async function ClassesPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const [all, day] = await Promise.all([
    fetchForPage('marks.classes', { date }),
    fetchForPage('attendance.registersOfDay', { date }),
  ])
  const session = (await param(searchParams, 'session')) === 'afternoon' ? 'afternoon' : 'morning'
  return <ClassList classes={all} initial={day} date={date} session={session} />
}
