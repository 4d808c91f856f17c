import { fetchForPage } from '@/screen/page-data'
import { LettersPage } from './letters-page'

export default async function Page() {
  return <LettersPage initial={await fetchForPage('attendance.letters', {})} />
}
