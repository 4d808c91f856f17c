import type { Metadata } from 'next'
import { fetchForPage } from '@/screen/page-data'
import { EntriesPage } from './entries-page'

export const metadata: Metadata = { title: 'Report entries' }

export default async function Page({ params }: { params: Promise<{ roundId: string; classId: string }> }) {
  const input = await params
  return (
    <EntriesPage
      key={input.classId}
      input={input}
      initial={await fetchForPage('reports.classEntries', input)}
    />
  )
}
