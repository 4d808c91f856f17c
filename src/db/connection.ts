import { Kysely, PostgresDialect } from 'kysely'
import pg from 'pg'
import type { Tables } from './tables'

const { DATE } = pg.types.builtins
// A civil date stays the text YYYY-MM-DD from the driver to the screen.
pg.types.setTypeParser(DATE, (text) => text)

export type Database = Kysely<Tables>

/**
 * Opens a pool.
 * @param onQuery called once for every statement sent, for the benchmark's count of queries per page
 */
export function connect(
  connectionString: string,
  {
    max = 10,
    options,
    onQuery,
  }: { max?: number; options?: string; onQuery?: (statement: string) => void } = {},
): Database {
  // Statements asked for together go out together, each without waiting for the answer to the one before.
  const pool = new pg.Pool({ connectionString, max, options, pipeline: true })
  // A connection that dies while idle is replaced at the next query, which reports its own failure.
  pool.on('error', () => undefined)
  return new Kysely<Tables>({
    dialect: new PostgresDialect({ pool }),
    log: onQuery && ((event) => onQuery(event.query.sql)),
  })
}
