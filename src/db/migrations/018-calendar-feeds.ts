import { sql, type Kysely } from 'kysely'

/** Secret addresses under which calendar programs fetch a school's year; only the hash of each is kept. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table auth.calendar_feed (
    token_hash text primary key, school_id uuid not null, account_id text not null references auth."user" on delete cascade,
    created_at timestamptz not null default clock_timestamp(), unique (school_id, account_id)
  )`.execute(db)
  await sql`grant select, insert, update, delete on auth.calendar_feed to kedge_app`.execute(db)
}
