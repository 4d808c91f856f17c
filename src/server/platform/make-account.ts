import { randomBytes } from 'node:crypto'
import type { Transaction } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Tables } from '@/db/tables'
import { hashPassword } from './sign-in'

/** A password to hand out; it must be changed at the first sign-in. */
export const initialPassword = () => randomBytes(9).toString('base64url')

/**
 * Makes an account that signs in with a password, which has to be changed at first sign-in.
 * @param account.username as it is typed; kept in lower case
 * @returns the account's id
 */
export async function makeAccount(
  db: Transaction<Tables>,
  { name, email, username, password }: { name: string; email: string; username: string; password: string },
): Promise<string> {
  const id = uuid()
  await db
    .insertInto('auth.user')
    .values({ id, name, email, username: username.toLowerCase(), displayUsername: username })
    .execute()
  await db
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
