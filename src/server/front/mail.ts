import { z } from 'zod'
import { defineCommand, defineDomain, defineQuery, type Place } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { limits } from '@/core/limits'
import { sendSoon } from '@/server/platform/mail'
import { onlyRoles, type Right } from '@/server/platform/rights'
import { defineTopic } from '@/server/platform/topic'

const { refuse } = refusals('mail', {
  notFailed: () => 'This mail has been sent, or Kedge is still trying to send it.',
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

/** Tries again to send a mail that was given up. */
const sendAgain = defineCommand({
  input: z.object({ mailId: id }),
  right: sendMailAgain,
  needsNoVersion: 'a state, compared',
  run: async (context, { mailId }) => {
    const again = await context.db
      .updateTable('mail')
      .set({ state: 'waiting', error: null })
      .where('id', '=', mailId)
      .where('state', '=', 'failed')
      .returning('id')
      .executeTakeFirst()
    if (!again) throw refuse('notFailed', {})
    await sendSoon(context, [mailId])
    context.changed(mailTopic())
    return null
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
  commands: { sendAgain },
})
