import { readiness } from '@/server/platform/readiness'

export const dynamic = 'force-dynamic'

/**
 * Whether Kedge can do its work: 200, or 503 with the reason. What needs a person, such as no running worker,
 * stands under `warnings`; pages are answered all the same.
 */
export async function GET() {
  const found = await readiness()
  return Response.json(found, {
    status: found.status === 'unavailable' ? 503 : 200,
    headers: { 'Cache-Control': 'no-store' },
  })
}
