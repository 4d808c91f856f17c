import { connect } from '@/db/connection'
import { hashPassword } from '@/server/platform/sign-in'
import { initialPassword } from '@/server/platform/account'

/**
 * Gives an account a new initial password and ends its sessions.
 * @throws Error in words when there is no such account
 */
export async function resetPassword(ownerUrl: string, user: string): Promise<string> {
  const password = initialPassword()
  const db = connect(ownerUrl, { max: 1 }).withoutPlugins()
  const name = user.toLowerCase()
  try {
    await db.transaction().execute(async (tx) => {
      const account = await tx
        .updateTable('auth.user')
        .set({ mustChangePassword: true })
        .where((eb) => eb.or([eb('username', '=', name), eb('email', '=', name)]))
        .returning('id')
        .executeTakeFirst()
      if (!account) throw new Error(`There is no account with the user name ${user}.`)
      await tx
        .updateTable('auth.account')
        .set({ password: await hashPassword(password) })
        .where('userId', '=', account.id)
        .execute()
      await tx.deleteFrom('auth.session').where('userId', '=', account.id).execute()
      await tx.deleteFrom('auth.sign_in_attempt').where('name', 'in', [account.id, name]).execute()
    })
  } finally {
    await db.destroy()
  }
  return password
}
