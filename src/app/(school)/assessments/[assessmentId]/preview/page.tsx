import { fetchForPage } from '@/screen/page-data'
import { PreviewPage } from './preview-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <PreviewPage initial={await fetchForPage('assessment.key', { assessmentId })} />
}
