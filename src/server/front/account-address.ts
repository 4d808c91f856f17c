import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { roles } from '@/server/platform/actor'
import { addressOf, confirmationLink } from '@/server/platform/confirmed-address'
import { defineCommand, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { defineMail, queueMails } from '@/server/platform/mail'
import { onlyRoles } from '@/server/platform/rights'
import { secondsToWait, waitInWords } from '@/server/platform/tries'

const { refuse } = refusals('account', {
  noAddress: () => 'Your account has no e-mail address. An administrator can enter one.',
  tooManyLinks: ({ seconds }: { seconds: number }) =>
    `Links were sent to you several times. Wait ${waitInWords(seconds)} before you ask for another one.`,
})

/** What everybody may do with the account they sign in with. */
export const ownAccount = onlyRoles('change their own password, address and sessions', ...roles)

/** Links that one may ask for under one name, so that nobody's mailbox is filled. */
export const linkTries = { free: 3, step: 1200, longest: 3600 } as const

/** The actor's own address for signing in and mail, and whether it is confirmed; null without one. */
export const address = defineQuery({
  input: z.object({}),
  right: ownAccount,
  run: async (context) => (await addressOf(context, context.actor.accountId)) ?? null,
})

/** A link with which the owner of an account shows that an address is theirs. */
export const confirmYourAddress = defineMail<{
  readonly accountId: string
  readonly address: string
  readonly school: string
  readonly name: string
}>({
  subject: () => 'Confirm your e-mail address for Kedge',
  body: ({ school, name }, link) =>
    [
      `Dear ${name},`,
      'You asked to confirm this address for your account with Kedge. Sign in, then open this link:',
      link,
      'The link works for one day. If you did not ask, there is nothing to do.',
      school,
    ].join('\n\n'),
  link: (context, { accountId, address: to }) => confirmationLink(context, accountId, to),
  example: {
    accountId: '00000000-0000-7000-8000-000000000001',
    address: 'r.achterberg@wrackline.example',
    school: 'Wrackline School',
    name: 'Remi Achterberg',
  },
})

/** Mails the actor a link that confirms their own address. */
export const confirmOwnAddress = defineCommand({
  input: z.object({}),
  right: ownAccount,
  needsNoVersion: 'creates',
  run: async (context) => {
    const { actor } = context
    const own = await addressOf(context, actor.accountId)
    if (!own) throw refuse('noAddress', {})
    const seconds = await secondsToWait(`confirm ${actor.accountId}`, linkTries)
    if (seconds > 0) throw refuse('tooManyLinks', { seconds })
    await queueMails(context, confirmYourAddress, [
      {
        dedupe: `confirm:${uuid()}`,
        toName: actor.name,
        toAddress: own.email,
        about: {
          accountId: actor.accountId,
          address: own.email,
          school: actor.schoolName,
          name: actor.name,
        },
      },
    ])
    return { email: own.email }
  },
})
