import { fetchForPage } from '@/screen/page-data'
import { KeyPage } from './key-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <KeyPage initial={await fetchForPage('assessment.key', { assessmentId })} />
}
