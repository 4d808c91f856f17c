import { fetchForPage } from '@/screen/page-data'
import { RoundPage } from './round-page'

export default async function Page({ params }: { params: Promise<{ roundId: string }> }) {
  const { roundId } = await params
  return <RoundPage initial={await fetchForPage('reports.round', { roundId })} />
}
