import { sql, type Kysely } from 'kysely'

/**
 * An address of an account counts as its person's once they have opened a link that was mailed to it. Sessions end
 * when their school or the installation takes them away, so each has a number of its own in sight.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  // A link confirms one address of an account; a later address is not confirmed by it.
  await run('alter table auth.one_time_link add column address text')
  await run(`alter table auth.one_time_link add constraint address_of_account
    check (address is null or account_id is not null)`)
  // Whoever accepted an invitation opened the mail that went to that address.
  await run(`update auth."user" u set "emailVerified" = true
    where exists (select 1 from invitation i where i.account_id = u.id and lower(i.email) = u.email)`)

  // What is over is deleted by its age.
  await run('create index one_time_link_age on auth.one_time_link (expires_at)')
}
