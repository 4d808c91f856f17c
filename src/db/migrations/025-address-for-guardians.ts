import { sql, type Kysely } from 'kysely'

/** Whether guardians may see a member of staff's e-mail address, which only the person can agree to. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`alter table staff_member add column email_for_guardians boolean not null default false`.execute(
    db,
  )
}
