import { fetchForPage } from '@/screen/page-data'
import { FindingsPage } from './findings-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  const [findings, linked] = await Promise.all([
    fetchForPage('assessment.findings', { assessmentId }),
    fetchForPage('marks.linkedTo', { assessmentId }),
  ])
  return <FindingsPage initial={findings} linkedAtFirst={linked} />
}
