import { fetchForPage } from '@/screen/page-data'
import { ScalesPage } from './scales-page'

export default async function Page() {
  return <ScalesPage initial={await fetchForPage('year.scales', {})} />
}
