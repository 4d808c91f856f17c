import { connect, type Database } from '@/db/connection'
import { config } from './config'

// Kept on the process, so that separately bundled parts of the application share one pool.
const shared = globalThis as typeof globalThis & { kedgeDatabase?: Database; kedgeQueries?: number }

/** The application's pool, signed in as the role that owns nothing. */
export function database(): Database {
  shared.kedgeDatabase ??= connect(config().DATABASE_URL, {
    max: config().KEDGE_POOL,
    onQuery:
      config().KEDGE_COUNT_QUERIES === '1'
        ? () => void (shared.kedgeQueries = (shared.kedgeQueries ?? 0) + 1)
        : undefined,
  })
  return shared.kedgeDatabase
}

/** Statements sent since the start, when KEDGE_COUNT_QUERIES is 1. */
export function queriesSent(): number {
  return shared.kedgeQueries ?? 0
}
