import type { Metadata } from 'next'
import { fetchForPage, workingDate } from '@/screen/page-data'
import { PeopleList } from './people-list'

export const metadata: Metadata = { title: 'People' }

export default async function PeoplePage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | undefined>>
}) {
  const date = await workingDate(searchParams)
  return <PeopleList students={await fetchForPage('people.list', { date })} />
}
