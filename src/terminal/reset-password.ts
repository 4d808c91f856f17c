import { connect } from '@/db/connection'
import { initialPassword } from '@/server/platform/account'
import { storePassword } from '@/server/platform/new-password'
import { nameTried } from '@/server/platform/sign-in'
import { keyed } from '@/server/platform/tries'

/**
 * Gives an account a new initial password and ends its sessions.
 * @throws Error in words when there is no such account
 */
export async function resetPassword(ownerUrl: string, user: string): Promise<string> {
  const password = initialPassword()
  const db = connect(ownerUrl, { max: 1 })
  const name = user.toLowerCase()
  try {
    await db.transaction().execute(async (tx) => {
      const plain = tx.withoutPlugins()
      const account = await plain
        .selectFrom('auth.user')
        .select(['id', 'username', 'email'])
        .where((eb) => eb.or([eb('username', '=', name), eb('email', '=', name)]))
        .executeTakeFirst()
      if (!account) throw new Error(`There is no account with the user name ${user}.`)
      await storePassword({ db: tx }, account.id, password, { mustChange: true })
      await plain.deleteFrom('auth.session').where('userId', '=', account.id).execute()
      const names = [account.username, account.email].flatMap((n) => (n ? [keyed(nameTried(n))] : []))
      await plain.deleteFrom('auth.sign_in_attempt').where('name', 'in', names).execute()
    })
  } finally {
    await db.destroy()
  }
  return password
}
