import { sql, type Kysely } from 'kysely'

/** Background work stands in the head of every page until its result was fetched or it was dismissed. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table job add column dismissed_at timestamptz`.execute(db)
  // What ended before is not news.
  await sql`alter table job no force row level security`.execute(db)
  await sql`update job set dismissed_at = finished_at where state in ('done', 'failed', 'cancelled')`.execute(
    db,
  )
  await sql`alter table job force row level security`.execute(db)
}
