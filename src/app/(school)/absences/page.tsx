import { fetchForPage } from '@/screen/page-data'
import { AbsencesPage } from './absences-page'

export default async function Page() {
  return <AbsencesPage initial={await fetchForPage('attendance.ownReports', {})} />
}
