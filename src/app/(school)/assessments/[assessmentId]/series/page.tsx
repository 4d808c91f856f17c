import { fetchForPage } from '@/screen/page-data'
import { SeriesPage } from './series-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <SeriesPage initial={await fetchForPage('assessment.series', { assessmentId })} />
}
