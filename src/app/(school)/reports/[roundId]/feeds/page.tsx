import { fetchForPage } from '@/screen/page-data'
import { FeedsPage } from './feeds-page'

export default async function Page({ params }: { params: Promise<{ roundId: string }> }) {
  const { roundId } = await params
  return <FeedsPage initial={await fetchForPage('reports.feeds', { roundId })} />
}
