import { sql } from 'kysely'
import { database } from './database'

/**
 * Deletes what is over: sessions past their end or idle for longer than any role allows, links that were used or are
 * too old, and tries that hold nobody up any more. Who did what stays in the history.
 */
export async function deleteExpired(): Promise<void> {
  const run = (statement: ReturnType<typeof sql>) => statement.execute(database())
  await run(sql`delete from auth.session where "expiresAt" < clock_timestamp()
    or active_at < clock_timestamp() - interval '12 hours'`)
  // A day longer, so that a link that was just used can still be told from one that never was.
  await run(sql`delete from auth.one_time_link where expires_at < clock_timestamp() - interval '1 day'
    or used_at < clock_timestamp() - interval '1 day'`)
  await run(sql`delete from auth.sign_in_attempt where at < clock_timestamp() - interval '1 day'`)
  await run(sql`delete from auth.verification where "expiresAt" < clock_timestamp()`)
}
