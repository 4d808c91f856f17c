import { sql, type Kysely } from 'kysely'

/** From which share of sessions present a school looks after a student; each person can look at another on the page. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table school_setting add column attendance_threshold smallint not null default 90
    check (attendance_threshold between 1 and 100)`.execute(db)
  // Undoing a school's first choice takes its row away.
  await sql`grant delete on school_setting to kedge_app`.execute(db)
}
