import type { Metadata } from 'next'
import { classEntries } from '@/server/reports/queries'
import { fetchForPage } from '../../../../../shared/page-data'
import { EntriesPage } from './entries-page'

export const metadata: Metadata = { title: 'Report entries' }

export default async function Page({ params }: { params: Promise<{ roundId: string; classId: string }> }) {
  const input = await params
  return <EntriesPage key={input.classId} input={input} initial={await fetchForPage(classEntries, input)} />
}
