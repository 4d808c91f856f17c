import { fetchForPage } from '@/screen/page-data'
import { RecordPage } from './record-page'

export default async function StudentPage({ params }: { params: Promise<{ studentId: string }> }) {
  const { studentId } = await params
  return <RecordPage key={studentId} initial={await fetchForPage('people.student', { studentId })} />
}
