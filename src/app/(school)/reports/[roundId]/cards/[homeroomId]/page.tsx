import { fetchForPage } from '@/screen/page-data'
import { CardsPage } from './cards-page'

export default async function Page({ params }: { params: Promise<{ roundId: string; homeroomId: string }> }) {
  const input = await params
  return <CardsPage input={input} initial={await fetchForPage('reports.cardList', input)} />
}
