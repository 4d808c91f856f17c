import { z } from 'zod'
import { defineQuery, onlyRoles } from '@/server/platform/registry'

/** What the stand-in mailbox has received, newest first, and what is still on its way. */
export const mailbox = defineQuery({
  name: 'mail.mailbox',
  input: z.object({}),
  allow: onlyRoles('administrator'),
  run: async ({ db }) => {
    const [received, notSent] = await Promise.all([
      db
        .selectFrom('mailbox')
        .select(['message_id', 'received_at', 'recipient', 'subject', 'body'])
        .orderBy('received_at', 'desc')
        .limit(200)
        .execute(),
      db
        .selectFrom('mail')
        .select(['id', 'to_address', 'subject', 'state', 'error'])
        .where('state', '!=', 'sent')
        .orderBy('id')
        .limit(200)
        .execute(),
    ])
    return { received: received.map((m) => ({ ...m, received_at: m.received_at.toISOString() })), notSent }
  },
})
