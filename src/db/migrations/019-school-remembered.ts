import { sql, type Kysely } from 'kysely'

/** Whoever belongs to several schools begins where they worked last. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table auth."user" add column "lastSchoolId" uuid`.execute(db)
}
