import { fetchForPage } from '@/screen/page-data'
import { AnswersPage } from './answers-page'

export default async function Page({ params }: { params: Promise<{ assessmentId: string }> }) {
  const { assessmentId } = await params
  return <AnswersPage initial={await fetchForPage('assessment.answers', { assessmentId })} />
}
