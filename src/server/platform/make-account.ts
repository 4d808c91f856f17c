import type { Transaction } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Tables } from '@/db/tables'
import { hashPassword } from './sign-in'

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
