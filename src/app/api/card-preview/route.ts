import { printCards } from '@/formats/pdf/report-card'
import type { CardContents } from '@/core/reports/card'
import { notFound } from '@/server/platform/failure'
import { answered, asActor, failed } from '@/server/platform/http'
import { fileResponse } from '@/server/platform/file-response'
import { executeQuery } from '@/server/platform/run'
import { queries } from '@/server/registry'

/** One student's card as it stands now, as the real page; "not final" across it until everything is checked. */
export async function GET(request: Request) {
  const cardPreview = queries.get('reports.cardPreview')
  if (!cardPreview) return failed(notFound)
  const { searchParams } = new URL(request.url)
  return asActor(request, async (actor) => {
    const result = await executeQuery(cardPreview, actor, Object.fromEntries(searchParams))
    if (!result.ok) return answered(result)
    const cards = result.value as readonly CardContents[]
    const { bytes } = await printCards(cards)
    return fileResponse(bytes, `${cards[0]?.student.name ?? 'Card'}.pdf`)
  })
}
