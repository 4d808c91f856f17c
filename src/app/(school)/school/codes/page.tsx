import { fetchForPage } from '@/screen/page-data'
import { CodesPage } from './codes-page'

export default async function Page() {
  return <CodesPage initial={await fetchForPage('attendance.codeSets', {})} />
}
