import type { Metadata } from 'next'
import { round } from '@/server/reports/queries'
import { list } from '@/server/work/work'
import { actor, fetchForPage } from '../../../shared/page-data'
import { RoundPage } from './round-page'

export const metadata: Metadata = { title: 'Report round' }

export default async function Page({ params }: { params: Promise<{ roundId: string }> }) {
  const { roundId } = await params
  const { accountId } = await actor()
  const [initial, work] = await Promise.all([
    fetchForPage(round, { roundId }),
    fetchForPage(list, { accountId }),
  ])
  return <RoundPage initial={initial} work={work} />
}
