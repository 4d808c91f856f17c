import { v7 as uuid } from 'uuid'
import { z } from 'zod'
import { defineCommand, defineDomain, defineQuery, type Place } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import { defineMail, queueMails, sendSoon } from '@/server/platform/mail'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { defineTopic } from '@/server/platform/topic'
import { addressOf } from '@/server/platform/confirmed-address'

const { refuse } = refusals('mail', {
  notFailed: () => 'This mail has been sent, or Kedge is sending it now.',
  noOwnAddress: () =>
    'Your account has no e-mail address. Ask another administrator to enter it with your staff record.',
})

const seeMail = onlyRoles('see which mails could not be sent', 'administrator')
const sendMailAgain: Right<{ mailId: string }> = {
  words: 'send a failed mail again',
  grants: [{ roles: ['administrator'] }],
  object: 'mail',
  of: ({ mailId }) => mailId,
}

/** Mails that are on their way or have failed. */
export const mailTopic = defineTopic('mail')

/** Mails that have not been sent yet: still on their way, or failed, with the reason. */
const notSent = defineQuery({
  input: z.object({}),
  right: seeMail,
  topics: () => [mailTopic()],
  run: ({ db }) =>
    db
      .selectFrom('mail')
      .select(['id', 'toAddress', 'subject', 'state', 'error', 'createdAt'])
      .where('state', '!=', 'sent')
      .orderBy('id', 'desc')
      .limit(limits.mailsShown)
      .execute(),
})

/** What the stand-in mailbox has received, newest first; empty where mails go to a real server. */
const received = defineQuery({
  input: z.object({}),
  right: seeMail,
  topics: () => [mailTopic()],
  run: ({ db }) =>
    db
      .selectFrom('standIn.mailbox')
      .select(['messageId', 'receivedAt', 'recipient', 'subject', 'body'])
      .orderBy('receivedAt', 'desc')
      .limit(limits.mailsShown)
      .execute(),
})

/** Sends a mail now that was given up, or that would be tried again later. */
const sendAgain = defineCommand({
  input: z.object({ mailId: id }),
  right: sendMailAgain,
  needsNoVersion: 'a state, compared',
  run: async (context, { mailId }) => {
    const again = await context.db
      .updateTable('mail')
      .set({ state: 'waiting', error: null })
      .where('id', '=', mailId)
      .where((eb) =>
        eb.or([
          eb('state', '=', 'failed'),
          eb.and([eb('state', '=', 'waiting'), eb('error', 'is not', null)]),
        ]),
      )
      .returning('id')
      .executeTakeFirst()
    if (!again) throw refuse('notFailed', {})
    await sendSoon(context, [mailId])
    context.changed(mailTopic())
    return null
  },
})

/** A mail that shows whether mail arrives. */
const testMail = defineMail<{ readonly school: string; readonly name: string }>({
  subject: () => 'Test mail from Kedge',
  body: ({ school, name }) =>
    [`Dear ${name},`, 'Mail from Kedge arrives at this address. There is nothing to do.', school].join(
      '\n\n',
    ),
  example: { school: 'Wrackline School', name: 'Mara Vester' },
})

/** Sends the actor a mail, to see whether mail arrives. */
const sendTest = defineCommand({
  input: z.object({}),
  right: onlyRoles('send a test mail', 'administrator'),
  needsNoVersion: 'creates',
  run: async (context) => {
    const { actor } = context
    const own = await addressOf(context, actor.accountId)
    if (!own) throw refuse('noOwnAddress', {})
    await queueMails(context, testMail, [
      {
        dedupe: `test:${uuid()}`,
        toName: actor.name,
        toAddress: own.email,
        about: { school: actor.schoolName, name: actor.name },
      },
    ])
    context.changed(mailTopic())
    return { email: own.email }
  },
})

/** A page of the place School. */
export const mailPlaces = (): readonly Place[] => [
  { name: 'Mail', href: '/school/mail', right: seeMail, of: 'School', group: 'Running it', position: 9 },
]

/** Mails on their way out, and the mailbox that ships with Kedge. */
export const mail = defineDomain({
  name: 'mail',
  tables: ['mail', 'standIn.mailbox'],
  reads: [],
  queries: { notSent, received },
  commands: { sendAgain, sendTest },
  mails: { testMail },
})
