import { fetchForPage } from '@/screen/page-data'
import { BuildingPage } from './building-page'

export default async function Page() {
  return <BuildingPage initial={await fetchForPage('attendance.inBuilding', {})} />
}
