import { createTransport, type Transporter } from 'nodemailer'
import { mailTopic } from '@/server/front/mail'
import { config } from '@/server/platform/config'
import { log } from '@/server/platform/log'
import { mails } from '@/server/registry'
import { asClock, type Payload } from './run-job'

let transport: Transporter | undefined

function smtp(): Transporter {
  const { SMTP_URL } = config()
  if (!SMTP_URL) throw new Error('no mail server is set; SMTP_URL names it')
  transport ??= createTransport(SMTP_URL)
  return transport
}

/** Whether a mail server has refused a mail for good, which another try does not change: not for want of a sign-in. */
function isForGood(error: unknown): boolean {
  const { responseCode, code } = error as { responseCode?: unknown; code?: unknown }
  return typeof responseCode === 'number' && responseCode >= 500 && responseCode < 600 && code !== 'EAUTH'
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
 * A mail that the server refuses for good is given up at once; the reason is kept with it.
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
    const forGood = isForGood(error)
    await note({
      state: last || forGood ? 'failed' : 'waiting',
      error: error instanceof Error ? error.message : String(error),
    })
    if (!forGood) throw error
    log().warn(
      { event: 'mail refused', mail: id, code: (error as { responseCode?: number }).responseCode },
      'a mail was refused for good',
    )
    return
  }
  await note({ state: 'sent', error: null, sentAt: new Date() })
}
