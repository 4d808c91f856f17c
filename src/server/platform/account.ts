import { randomBytes } from 'node:crypto'
import type { Transaction } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Tables } from '@/db/tables'
import { hashPassword } from './password-hash'

/** A password to hand out in a terminal; it must be changed at the first sign-in. */
export const initialPassword = () => randomBytes(9).toString('base64url')

const nowhere = '.invalid'

/** Everybody has an address to the sign-in package; this one exists nowhere. */
export const noAddress = (account: string, schoolId: string) => `${account}@${schoolId}${nowhere}`

/** Whether mail can be sent to an account's address. */
export const hasAddress = (email: string) => !email.endsWith(nowhere)

export interface NewAccount {
  readonly name: string
  readonly email: string
  /** As it is typed; kept in lower case. Without one, the account signs in with its e-mail address. */
  readonly username?: string
  readonly password: string
  readonly mustChangePassword: boolean
}

/**
 * Makes an account that signs in with a password.
 * @returns the account's id
 */
export async function makeAccount(
  db: Transaction<Tables>,
  { name, email, username, password, mustChangePassword }: NewAccount,
): Promise<string> {
  const id = uuid()
  const plain = db.withoutPlugins()
  await plain
    .insertInto('auth.user')
    .values({
      id,
      name,
      email: email.toLowerCase(),
      username: username?.toLowerCase() ?? null,
      displayUsername: username ?? null,
      mustChangePassword,
    })
    .execute()
  await plain
    .insertInto('auth.account')
    .values({
      id: uuid(),
      userId: id,
      accountId: id,
      providerId: 'credential',
      password: await hashPassword(password),
    })
    .execute()
  return id
}
