import { createTransport, type Transporter } from 'nodemailer'
import { mailTopic } from '@/server/front/mail'
import { config } from '@/server/platform/config'
import { mails } from '@/server/registry'
import { asClock, type Payload } from './run-job'

let transport: Transporter | undefined

function smtp(): Transporter {
  const { SMTP_URL } = config()
  if (!SMTP_URL) throw new Error('no mail server is set; SMTP_URL names it')
  transport ??= createTransport(SMTP_URL)
  return transport
}

/** A mail on record with its text. What holds a secret link is written now, and is not kept. */
function readyToSend({ schoolId, id }: Payload) {
  return asClock(schoolId, 'mail.send', async (context) => {
    const mail = await context.db
      .selectFrom('mail')
      .selectAll()
      .where('id', '=', id)
      .where('state', '!=', 'sent')
      .executeTakeFirst()
    if (!mail) return undefined
    if (mail.body !== null) return { ...mail, body: mail.body }
    const kind = mails.get(mail.kind)
    if (!kind?.link) throw new Error(`there is no mail of the kind ${mail.kind} with a link`)
    return { ...mail, body: kind.body(mail.about, await kind.link(context, mail.about)) }
  })
}

/**
 * Sends one mail that is on record. Its Message-ID is its own identifier, so that a mail sent twice, because the
 * worker died between sending and noting it, is known as the same.
 * @param last whether nobody will try again when this try fails
 * @throws what the mail server said, so that the queue tries again later; the reason is kept with the mail
 */
export async function sendMail(payload: Payload, { last }: { last: boolean }): Promise<void> {
  const { schoolId, id } = payload
  const note = (columns: { state: 'waiting' | 'sent' | 'failed'; error: string | null; sentAt?: Date }) =>
    asClock(schoolId, 'mail.send', async ({ db, changed }) => {
      await db.updateTable('mail').set(columns).where('id', '=', id).execute()
      changed(mailTopic())
    })
  try {
    const mail = await readyToSend(payload)
    if (!mail) return
    await smtp().sendMail({
      from: config().MAIL_FROM,
      to: { name: mail.toName, address: mail.toAddress },
      subject: mail.subject,
      text: mail.body,
      messageId: `<${id}@kedge>`,
      headers: { 'X-Kedge-School': schoolId },
    })
  } catch (error) {
    await note({
      state: last ? 'failed' : 'waiting',
      error: error instanceof Error ? error.message : String(error),
    })
    throw error
  }
  await note({ state: 'sent', error: null, sentAt: new Date() })
}
