import { z } from 'zod'
import { checkPassword } from '@/core/people/password-rule'
import { roles } from '@/server/platform/actor'
import { defineCommand, defineDomain } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { onlyRoles } from '@/server/platform/rights'
import { hashPassword, passwordMatches } from '@/server/platform/sign-in'

const { refuseField } = refusals('account', {
  weak: ({ rules }: { rules: readonly string[] }) => rules.join(' '),
  wrongPassword: () => 'This is not your current password. Enter it again.',
  samePassword: () => 'This is the password you have now. Choose another one.',
})

const ownAccount = onlyRoles('change their own password and sessions', ...roles)

/**
 * Sets the actor's own password and ends all other sessions. The initial password need not be typed again at the
 * first sign-in; later changes ask for the present one.
 */
const setOwnPassword = defineCommand({
  input: z.object({ password: z.string().max(200), present: z.string().max(200).optional() }),
  right: ownAccount,
  run: async ({ db: own, actor }, { password, present }) => {
    const db = own.withoutPlugins()
    const unmet = checkPassword(password, [actor.username, actor.name, actor.schoolName]).filter(
      (check) => !check.met,
    )
    if (unmet.length > 0) throw refuseField('password', 'weak', { rules: unmet.map((check) => check.text) })
    const user = await db
      .selectFrom('auth.user')
      .select('mustChangePassword')
      .where('id', '=', actor.accountId)
      .executeTakeFirstOrThrow()
    const account = await db
      .selectFrom('auth.account')
      .select('password')
      .where('userId', '=', actor.accountId)
      .where('providerId', '=', 'credential')
      .executeTakeFirstOrThrow()
    const hash = account.password ?? ''
    if (!user.mustChangePassword && !(await passwordMatches(hash, present ?? '')))
      throw refuseField('present', 'wrongPassword', {})
    if (await passwordMatches(hash, password)) throw refuseField('password', 'samePassword', {})
    await db
      .updateTable('auth.account')
      .set({ password: await hashPassword(password) })
      .where('userId', '=', actor.accountId)
      .execute()
    await db
      .updateTable('auth.user')
      .set({ mustChangePassword: false })
      .where('id', '=', actor.accountId)
      .execute()
    await db
      .deleteFrom('auth.session')
      .where('userId', '=', actor.accountId)
      .where('token', '!=', actor.sessionToken)
      .execute()
    return null
  },
})

/** Ends every session of the actor, on all devices. */
const signOutEverywhere = defineCommand({
  input: z.object({}),
  right: ownAccount,
  run: async ({ db, actor }) => {
    await db.withoutPlugins().deleteFrom('auth.session').where('userId', '=', actor.accountId).execute()
    return null
  },
})

/** The person's own account. */
export const account = defineDomain({
  name: 'account',
  tables: ['school', 'membership', 'invitation', 'auth.user', 'auth.account', 'auth.session'],
  reads: [],
  queries: {},
  commands: { setOwnPassword, signOutEverywhere },
})
