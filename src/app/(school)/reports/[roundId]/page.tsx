import { fetchForPage } from '@/screen/page-data'
import { RoundPage } from './round-page'

export default async function Page({ params }: { params: Promise<{ roundId: string }> }) {
  const { roundId } = await params
  const [initial, work] = await Promise.all([
    fetchForPage('reports.round', { roundId }),
    fetchForPage('work.list', {}),
  ])
  return <RoundPage initial={initial} work={work} />
}
