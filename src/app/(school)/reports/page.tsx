import { fetchForPage } from '@/screen/page-data'
import { PageHead } from '@/screen/page-head'
import { RoundList } from './round-list'

export default async function ReportsPage() {
  return (
    <div className="sheet">
      <PageHead title="Report rounds" />
      <RoundList rows={await fetchForPage('reports.rounds', {})} />
    </div>
  )
}
