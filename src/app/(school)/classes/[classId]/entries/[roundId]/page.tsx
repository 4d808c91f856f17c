import { fetchForPage } from '@/screen/page-data'
import { EntriesPage } from './entries-page'

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
