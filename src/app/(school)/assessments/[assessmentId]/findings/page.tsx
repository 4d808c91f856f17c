import { fetchForPage } from '@/screen/page-data'
import { FindingsPage } from './findings-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <FindingsPage initial={await fetchForPage('assessment.findings', { assessmentId })} />
}
