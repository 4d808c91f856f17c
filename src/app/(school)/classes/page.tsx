import type { Metadata } from 'next'
import { classes } from '@/server/marks/queries'
import { registers } from '@/server/today/queries'
import { fetchForPage, param, workingDate } from '../../shared/page-data'
import { ClassList } from './class-list'

export const metadata: Metadata = { title: 'Classes' }

export default async function ClassesPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  const [all, day] = await Promise.all([fetchForPage(classes, { date }), fetchForPage(registers, { date })])
  const session = (await param(searchParams, 'session')) === 'afternoon' ? 'afternoon' : 'morning'
  return <ClassList classes={all} initial={day} date={date} session={session} />
}
