import { v7 as uuid } from 'uuid'
import { limits } from '@/core/limits'
import { z } from 'zod'
import { clockActor } from '@/server/platform/actor'
import { actInSchool } from '@/server/platform/in-school'
import { database } from '@/server/platform/database'
import { addressOf, opensByMail } from '@/server/platform/confirmed-address'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { defineMail, queueMails } from '@/server/platform/mail'
import { passwordLink, storePassword } from '@/server/platform/new-password'
import { actorsOf } from '@/server/platform/session'
import { endSessionOf, sessionInput, sessionsOf } from '@/server/platform/session-list'
import { passwordMatches } from '@/server/platform/password-hash'
import { accountNamed } from '@/server/platform/sign-in'
import { forgetTries, secondsToWait, waitInWords } from '@/server/platform/tries'
import { unmetPasswordRules } from '@/server/platform/password-rule'
import { address, confirmOwnAddress, confirmYourAddress, linkTries, ownAccount } from './account-address'

const { refuseField } = refusals('account', {
  weak: ({ rules }: { rules: readonly string[] }) => rules.join(' '),
  wrongPassword: () => 'This is not your current password. Enter it again.',
  tooManyTries: ({ seconds }: { seconds: number }) =>
    `This was not your current password several times. Wait ${waitInWords(seconds)} and try again.`,
  samePassword: () => 'This is the password you have now. Choose another one.',
})

/** Whoever finds a page left open cannot try out its person's password. */
const presentTries = { free: 5, step: 10, longest: 900 } as const

/**
 * Sets the actor's own password and ends all other sessions. The initial password need not be typed again at the
 * first sign-in; later changes ask for the present one.
 */
const setOwnPassword = defineCommand({
  input: z.object({
    password: z.string().max(limits.password),
    present: z.string().max(limits.password).optional(),
  }),
  right: ownAccount,
  needsNoVersion: 'asks for the current password',
  run: async ({ db: own, actor }, { password, present }) => {
    const db = own.withoutPlugins()
    const rules = unmetPasswordRules(password, [actor.username, actor.name, actor.schoolName])
    if (rules.length > 0) throw refuseField('password', 'weak', { rules })
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
    if (!user.mustChangePassword) {
      // Counted before it is looked at, and outside of what a refusal takes back.
      const tried = `present ${actor.accountId}`
      const seconds = await secondsToWait(tried, presentTries)
      if (seconds > 0) throw refuseField('present', 'tooManyTries', { seconds })
      if (!(await passwordMatches(hash, present ?? ''))) throw refuseField('present', 'wrongPassword', {})
      await forgetTries([tried])
    }
    if (await passwordMatches(hash, password)) throw refuseField('password', 'samePassword', {})
    await storePassword({ db: own }, actor.accountId, password, { mustChange: false })
    await db
      .deleteFrom('auth.session')
      .where('userId', '=', actor.accountId)
      .where('token', '!=', actor.sessionToken)
      .execute()
    return null
  },
})

/** Where the actor is signed in: each session with its browser, and the one that asks. */
const sessions = defineQuery({
  input: z.object({}),
  right: ownAccount,
  run: ({ actor }) => sessionsOf(actor.accountId, { own: actor.sessionToken }),
})

/** Ends one session of the actor, in whatever browser it is. One that has ended already stays so. */
const endOwnSession = defineCommand({
  input: sessionInput,
  right: ownAccount,
  needsNoVersion: 'ends what there is',
  run: async ({ db, actor }, { sessionId }) => {
    await endSessionOf(db, actor.accountId, sessionId)
    return null
  },
})

/** Ends every session of the actor, on all devices. */
const signOutEverywhere = defineCommand({
  input: z.object({}),
  right: ownAccount,
  needsNoVersion: 'ends what there is',
  run: async ({ db, actor }) => {
    await db.withoutPlugins().deleteFrom('auth.session').where('userId', '=', actor.accountId).execute()
    return null
  },
})

/** A link for somebody who has forgotten their password. */
const forgottenPassword = defineMail<{
  readonly accountId: string
  readonly school: string
  readonly name: string
}>({
  subject: () => 'A new password for Kedge',
  body: ({ school, name }, link) =>
    [
      `Dear ${name},`,
      'Somebody, probably you, asked for a new password for Kedge. Open this link to choose one:',
      link,
      `The link works once, for one hour. If you did not ask, there is nothing to do: your password stays as it is.`,
      school,
    ].join('\n\n'),
  link: (context, { accountId }) => passwordLink(context, accountId, 1),
  example: {
    accountId: '00000000-0000-7000-8000-000000000001',
    school: 'Wrackline School',
    name: 'Remi Achterberg',
  },
})

/**
 * Mails a link to choose a new password, to the address of the account named, if there is such an account with an
 * address. Nothing in the answer or in how long it takes tells whether there is.
 * @param typed a user name or an e-mail address
 */
export async function requestPasswordLink(typed: string): Promise<void> {
  const name = typed.trim().toLowerCase()
  const known = await accountNamed(name)
  if ((await secondsToWait(`password link ${name}`, linkTries)) > 0) return
  if (!known) return
  const address = await addressOf({ db: database() }, known.id)
  const [actor] = address && (await opensByMail(known.id, address)) ? await actorsOf(known.id) : []
  if (!actor) return
  await actInSchool(
    clockActor({ id: actor.schoolId, name: actor.schoolName, timeZone: actor.timeZone }),
    { command: 'account.requestPasswordLink' },
    (context) =>
      queueMails(context, forgottenPassword, [
        {
          dedupe: `password:${uuid()}`,
          toName: actor.name,
          toAddress: known.email,
          about: { accountId: known.id, school: actor.schoolName, name: actor.name },
        },
      ]),
  )
}

/** The person's own account. */
export const account = defineDomain({
  name: 'account',
  tables: ['membership', 'invitation', 'auth.user', 'auth.account', 'auth.session'],
  reads: [],
  queries: { sessions, address },
  commands: { setOwnPassword, signOutEverywhere, endOwnSession, confirmOwnAddress },
  mails: { forgottenPassword, confirmYourAddress },
})
