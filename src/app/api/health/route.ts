import { config } from '@/server/platform/config'
import { checkDatabase, queriesSent } from '@/server/platform/database'

export const dynamic = 'force-dynamic'

/** Whether the application can do its work: 200, or 503 with the reason when the database is away. */
export async function GET() {
  const version = config().KEDGE_VERSION
  try {
    await checkDatabase()
    const counted = config().KEDGE_COUNT_QUERIES === '1' ? { queries: queriesSent() } : {}
    return Response.json({ status: 'ok', version, database: 'ok', ...counted })
  } catch (error) {
    const reason = error instanceof Error && error.message ? error.message : 'the database does not answer'
    return Response.json({ status: 'unavailable', version, database: reason }, { status: 503 })
  }
}
