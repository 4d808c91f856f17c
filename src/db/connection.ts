import { CamelCasePlugin, Kysely, PostgresDialect } from 'kysely'
import pg from 'pg'
import { PreparingClient } from './prepared'
import type { Tables } from './tables'

const { DATE, TIMESTAMPTZ } = pg.types.builtins

/** How long Kedge waits for the database before it gives up, in milliseconds. */
export const timeouts = { connection: 5000, lock: 4000, statement: 15000, idleInTransaction: 30000 } as const

/** Settings of a connection that gives up waiting after `times` the ordinary time. */
const limits = (times: number) =>
  [
    `-c lock_timeout=${timeouts.lock * times}`,
    `-c statement_timeout=${timeouts.statement * times}`,
    `-c idle_in_transaction_session_timeout=${timeouts.idleInTransaction * times}`,
  ].join(' ')

const asText = (text: string) => text
const asMoment = (text: string) => new Date(text).toISOString()
/** A civil date stays YYYY-MM-DD and a moment is ISO 8601 in UTC, from the driver to the screen. */
const getTypeParser: typeof pg.types.getTypeParser = (oid: number, format?: string) => {
  if (oid === DATE) return asText
  if (oid === TIMESTAMPTZ) return asMoment
  return pg.types.getTypeParser(oid, format as 'text')
}

export type Database = Kysely<Tables>

/**
 * A connection that dies while nothing is asked of it, in the pool or within a transaction, is reported by the next
 * statement; by itself it must not end the process.
 */
export function surviveLostConnections(pool: pg.Pool): void {
  pool.on('error', () => undefined)
  pool.on('connect', (client) => client.on('error', () => undefined))
}

/**
 * Opens a pool on Kedge's tables. Columns are snake_case in the database and camelCase in the code; keys inside
 * stored JSON are left alone.
 * @param waits how many times the ordinary time statements, locks and idle transactions may take (1 in real use);
 *   without it they take as long as they need, as loading and migrating do
 * @param onQuery called once for every statement sent, for the benchmark's count of queries per page
 */
export function connect(
  connectionString: string,
  { max = 10, waits, onQuery }: { max?: number; waits?: number; onQuery?: (statement: string) => void } = {},
): Database {
  const pool = new pg.Pool({
    Client: PreparingClient,
    connectionString,
    max,
    options: waits === undefined ? undefined : limits(waits),
    connectionTimeoutMillis: waits === undefined ? undefined : timeouts.connection * waits,
    types: { getTypeParser },
    // Statements sent together go out together, each without waiting for the answer to the one before.
    pipeline: true,
  })
  surviveLostConnections(pool)
  return new Kysely<Tables>({
    dialect: new PostgresDialect({ pool }),
    plugins: [new CamelCasePlugin({ maintainNestedObjectKeys: true })],
    log: onQuery && ((event) => onQuery(event.query.sql)),
  })
}

/** Opens a pool for the sign-in package, whose tables and types are its own. */
export function connectSignIn(connectionString: string, waits: number): Kysely<unknown> {
  const pool = new pg.Pool({
    Client: PreparingClient,
    connectionString,
    max: 4,
    options: `${limits(waits)} -c search_path=auth`,
    connectionTimeoutMillis: timeouts.connection * waits,
  })
  surviveLostConnections(pool)
  return new Kysely<unknown>({ dialect: new PostgresDialect({ pool }) })
}
