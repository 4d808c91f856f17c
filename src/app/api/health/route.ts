import { config } from '@/server/platform/config'
import { queriesSent } from '@/server/platform/database'

export const dynamic = 'force-dynamic'

/** Whether the process is alive: 200, whatever the database does. `/api/ready` tells whether it can do its work. */
export function GET() {
  const { KEDGE_VERSION: version, KEDGE_COUNT_QUERIES } = config()
  return Response.json({
    status: 'alive',
    version,
    ...(KEDGE_COUNT_QUERIES === '1' ? { queries: queriesSent() } : {}),
  })
}
