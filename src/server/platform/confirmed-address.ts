import { sql, type Kysely } from 'kysely'
import type { Tables } from '@/db/tables'
import type { Context } from './context'
import { hasAddress } from './account'
import { database } from './database'
import { oneTimeLink, withLink } from './one-time-link'
import { actorsOf } from './session'
import { sessionAccount } from './sign-in'

/** How long a link that confirms an address works, in hours. */
const linkHours = 24

/** An account's address and whether its person has shown that it is theirs. */
export interface AccountAddress {
  readonly email: string
  readonly confirmed: boolean
}

/** The address that an account is mailed at; undefined without one. */
export async function addressOf(
  { db }: { readonly db: Kysely<Tables> },
  accountId: string,
): Promise<AccountAddress | undefined> {
  const { email, emailVerified } = await db
    .withoutPlugins()
    .selectFrom('auth.user')
    .select(['email', 'emailVerified'])
    .where('id', '=', accountId)
    .executeTakeFirstOrThrow()
  return hasAddress(email) ? { email, confirmed: emailVerified } : undefined
}

/**
 * Whether a link that opens an account may be mailed to its address. An administrator of one school may have entered
 * any address; in an account that opens other schools as well, only one that its person has confirmed counts.
 */
export async function opensByMail(accountId: string, { confirmed }: AccountAddress): Promise<boolean> {
  if (confirmed) return true
  const [actor] = await actorsOf(accountId)
  return actor === undefined || !(await isUsedElsewhere(database(), actor.schoolId, accountId))
}

/**
 * Whether an account belongs to another school as well, or did and may again: whoever set its password here could enter
 * there.
 */
export async function isUsedElsewhere(
  db: Kysely<Tables>,
  schoolId: string,
  accountId: string,
): Promise<boolean> {
  const { rows } = await sql<{ elsewhere: boolean }>`
    select kedge_is_member_elsewhere(${accountId}, ${schoolId}) as elsewhere`.execute(db)
  return rows[0]?.elsewhere ?? true
}

/** Makes a link that confirms the address an account has now, for a mail to it. */
export const confirmationLink = (context: Context, accountId: string, address: string): Promise<string> =>
  oneTimeLink(context, 'confirm-address', { account_id: accountId, address }, linkHours)

/** Keeps that the mail to an address was read by the account's person. */
export async function setConfirmed({ db }: Pick<Context, 'db'>, accountId: string, email: string) {
  await db
    .withoutPlugins()
    .updateTable('auth.user')
    .set({ emailVerified: true })
    .where('id', '=', accountId)
    .where('email', '=', email.toLowerCase())
    .execute()
}

/**
 * Takes back that an account's address is confirmed: it came to another school, and until then whoever runs the first
 * could read what is mailed there.
 */
export async function askAgain({ db }: Pick<Context, 'db'>, accountId: string): Promise<void> {
  await db
    .withoutPlugins()
    .updateTable('auth.user')
    .set({ emailVerified: false })
    .where('id', '=', accountId)
    .execute()
}

export type Confirmed =
  | { readonly kind: 'confirmed'; readonly email: string }
  | { readonly kind: 'used' }
  /** The link was opened by somebody who is not signed in with the account it belongs to. */
  | { readonly kind: 'sign in first'; readonly username: string }

/** Confirms an address by the link that was mailed to it; whoever opens it must be signed in with that account. */
export async function confirmAddress(token: string, headers: Headers): Promise<Confirmed> {
  const own = await sessionAccount(headers)
  const done = await withLink(
    token,
    'account.confirmAddress',
    async ({ context, accountId, address, use }): Promise<Confirmed> => {
      if (accountId === null || address === null) return { kind: 'used' }
      const { email, username } = await context.db
        .withoutPlugins()
        .selectFrom('auth.user')
        .select(['email', 'username'])
        .where('id', '=', accountId)
        .executeTakeFirstOrThrow()
      if (email !== address) return { kind: 'used' }
      if (own?.id !== accountId) return { kind: 'sign in first', username: username ?? email }
      await setConfirmed(context, accountId, email)
      await use()
      return { kind: 'confirmed', email }
    },
  )
  return done ?? { kind: 'used' }
}
