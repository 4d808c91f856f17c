import pg from 'pg'
import { connect, timeouts, surviveLostConnections, type Database } from '@/db/connection'
import { config } from './config'

// Kept on the process, so that separately bundled parts of the application share one pool.
const shared = globalThis as typeof globalThis & {
  kedgeDatabase?: Database
  kedgeHealth?: pg.Pool
  kedgeQueries?: number
}

/** The application's pool, signed in as the role that owns nothing. */
export function database(): Database {
  shared.kedgeDatabase ??= connect(config().DATABASE_URL, {
    max: config().KEDGE_POOL,
    waits: config().KEDGE_TIMEOUTS,
    onQuery:
      config().KEDGE_COUNT_QUERIES === '1'
        ? () => void (shared.kedgeQueries = (shared.kedgeQueries ?? 0) + 1)
        : undefined,
  })
  return shared.kedgeDatabase
}

/**
 * One statement on a connection of its own, so that a busy pool does not look like a dead one.
 * @throws what the driver says when the database does not answer in time
 */
export async function askDatabase<T extends pg.QueryResultRow>(statement: string): Promise<readonly T[]> {
  if (!shared.kedgeHealth) {
    const waits = timeouts.connection * config().KEDGE_TIMEOUTS
    shared.kedgeHealth = new pg.Pool({
      connectionString: config().DATABASE_URL,
      max: 1,
      connectionTimeoutMillis: waits,
      query_timeout: waits,
    })
    surviveLostConnections(shared.kedgeHealth)
  }
  return (await shared.kedgeHealth.query<T>(statement)).rows
}

/** Statements sent since the start, when KEDGE_COUNT_QUERIES is 1. */
export function queriesSent(): number {
  return shared.kedgeQueries ?? 0
}
