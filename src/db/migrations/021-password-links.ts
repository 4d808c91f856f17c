import type { Kysely } from 'kysely'
import { sql } from 'kysely'

/** A one-time link accepts an invitation, or lets the owner of an account choose a new password. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db)
  await run('alter table auth.one_time_link alter column invitation_id drop not null')
  await run(
    'alter table auth.one_time_link add column account_id text references auth."user" on delete cascade',
  )
  await run('alter table auth.one_time_link add check (num_nonnulls(invitation_id, account_id) = 1)')
  await run('create index one_time_link_of_account on auth.one_time_link (account_id)')
}
