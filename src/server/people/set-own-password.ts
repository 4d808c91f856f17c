import { z } from 'zod'
import { checkPassword } from '@/core/people/password-rule'
import { refuseField } from '@/server/platform/failure'
import { defineCommand } from '@/server/platform/registry'
import { hashPassword, passwordMatches } from '@/server/platform/sign-in'

/**
 * Sets the actor's own password and ends all other sessions. The initial password need not be typed again at the
 * first sign-in; later changes ask for the present one.
 */
export const setOwnPassword = defineCommand({
  name: 'people.setOwnPassword',
  input: z.object({ password: z.string().max(200), present: z.string().max(200).optional() }),
  allow: () => true,
  run: async ({ db, actor }, { password, present }) => {
    const unmet = checkPassword(password, [actor.username, actor.name, actor.schoolName]).filter(
      (check) => !check.met,
    )
    if (unmet.length > 0) throw refuseField('password', unmet.map((check) => check.text).join(' '))
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
      throw refuseField('present', 'This is not your present password. Type it again.')
    if (await passwordMatches(hash, password))
      throw refuseField('password', 'This is the password you have now. Choose another one.')
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
export const signOutEverywhere = defineCommand({
  name: 'people.signOutEverywhere',
  input: z.object({}),
  allow: () => true,
  run: async ({ db, actor }) => {
    await db.deleteFrom('auth.session').where('userId', '=', actor.accountId).execute()
    return null
  },
})
