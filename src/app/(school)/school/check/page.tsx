import { fetchForPage } from '@/screen/page-data'
import { CheckPage } from './check-page'

export default async function Page() {
  return <CheckPage initial={await fetchForPage('check.last', {})} />
}
