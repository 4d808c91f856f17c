import { sql } from 'kysely'
import type { Context } from './context'
import { oneTimeLink, withLink } from './one-time-link'
import { hashPassword } from './password-hash'
import { forgetNames } from './sign-in'
import { unmetPasswordRules } from './password-rule'

/** Makes a link with which the owner of an account chooses a new password, for a mail. */
export const passwordLink = (context: Context, accountId: string, hours: number): Promise<string> =>
  oneTimeLink(context, 'new-password', { account_id: accountId }, hours)

/** Keeps a password of an account. Links that were mailed to choose one stop working. */
export async function storePassword(
  { db }: Pick<Context, 'db'>,
  accountId: string,
  password: string,
  { mustChange }: { readonly mustChange: boolean },
): Promise<void> {
  const plain = db.withoutPlugins()
  await plain
    .updateTable('auth.account')
    .set({ password: await hashPassword(password) })
    .where('userId', '=', accountId)
    .where('providerId', '=', 'credential')
    .execute()
  await plain
    .updateTable('auth.one_time_link')
    .set({ used_at: sql<string>`clock_timestamp()` })
    .where('account_id', '=', accountId)
    .where('used_at', 'is', null)
    .execute()
  await plain
    .updateTable('auth.user')
    .set({ mustChangePassword: mustChange })
    .where('id', '=', accountId)
    .execute()
}

/** Whose password a link changes. */
export interface PasswordLinkOwner {
  readonly schoolName: string
  readonly name: string
  /** What they sign in with. */
  readonly username: string
  readonly email: string
}

async function ownerOf({ db, actor }: Context, accountId: string): Promise<PasswordLinkOwner> {
  const { name, username, email } = await db
    .withoutPlugins()
    .selectFrom('auth.user')
    .select(['name', 'username', 'email'])
    .where('id', '=', accountId)
    .executeTakeFirstOrThrow()
  return { schoolName: actor.schoolName, name, username: username ?? email, email }
}

/** Whose password a link changes, or undefined when it does not work any more. */
export const openPasswordLink = (token: string): Promise<PasswordLinkOwner | undefined> =>
  withLink(token, 'account.openPasswordLink', ({ context, accountId, address }) =>
    accountId === null || address !== null ? Promise.resolve(undefined) : ownerOf(context, accountId),
  )

export type PasswordByLink =
  | { readonly kind: 'changed'; readonly username: string }
  | { readonly kind: 'used' }
  | { readonly kind: 'password'; readonly problems: readonly string[] }

/**
 * Sets a new password by a link. All sessions of the account end, its other links stop working, and it may be tried
 * again at once if it had to wait.
 */
export async function setPasswordByLink(token: string, password: string): Promise<PasswordByLink> {
  const done = await withLink(
    token,
    'account.setPasswordByLink',
    async ({ context, accountId, address }): Promise<PasswordByLink> => {
      if (accountId === null || address !== null) return { kind: 'used' }
      const owner = await ownerOf(context, accountId)
      const problems = unmetPasswordRules(password, [
        owner.username,
        owner.email,
        owner.name,
        owner.schoolName,
      ])
      if (problems.length > 0) return { kind: 'password', problems }
      await storePassword(context, accountId, password, { mustChange: false })
      const plain = context.db.withoutPlugins()
      await plain.deleteFrom('auth.session').where('userId', '=', accountId).execute()
      await forgetNames([owner.username, owner.email])
      return { kind: 'changed', username: owner.username }
    },
  )
  return done ?? { kind: 'used' }
}
