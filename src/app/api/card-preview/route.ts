import { printCards } from '@/formats/pdf/report-card'
import { answered, asActor } from '@/server/platform/http'
import { pdfResponse } from '@/server/platform/pdf-response'
import { ask } from '@/server/platform/registry'
import { cardPreview } from '@/server/reports/queries'

/** One student's card as it stands now, as the real page; "not final" across it until everything is checked. */
export async function GET(request: Request) {
  const { searchParams } = new URL(request.url)
  return asActor(request, async (actor) => {
    const result = await ask(cardPreview, actor, Object.fromEntries(searchParams))
    if (!result.ok) return answered(result)
    const { bytes } = await printCards(result.value)
    return pdfResponse(bytes, `${result.value[0]?.student.name ?? 'Card'}.pdf`)
  })
}
