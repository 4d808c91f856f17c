import { sql } from 'kysely'
import { createTransport, type Transporter } from 'nodemailer'
import { clockIsSet, now } from '@/server/platform/clock'
import { config } from '@/server/platform/config'
import { database } from '@/server/platform/database'

let transport: Transporter | undefined

function smtp(): Transporter {
  const { SMTP_URL } = config()
  if (!SMTP_URL) throw new Error('no mail server is set; SMTP_URL names it')
  transport ??= createTransport(SMTP_URL)
  return transport
}

/**
 * Sends one mail that is on record. Its Message-ID is its own identifier, so that a mail sent twice, because the
 * worker died between sending and noting it, is known as the same.
 * @param last whether nobody will try again when this try fails
 * @throws what the mail server said, so that the queue tries again later; the reason is kept with the mail
 */
export async function sendMail(
  { schoolId, id }: { schoolId: string; id: string },
  { last }: { last: boolean },
): Promise<void> {
  const inSchool = <T>(
    work: (
      db: Parameters<Parameters<ReturnType<ReturnType<typeof database>['transaction']>['execute']>[0]>[0],
    ) => Promise<T>,
  ) =>
    database()
      .transaction()
      .execute(async (db) => {
        await sql`select set_config('kedge.school', ${schoolId}, true), set_config('kedge.command', 'mail.send', true),
          set_config('kedge.now', ${clockIsSet() ? now('UTC').toISOString() : ''}, true)`.execute(db)
        return work(db)
      })
  const mail = await inSchool((db) =>
    db.selectFrom('mail').selectAll().where('id', '=', id).where('state', '!=', 'sent').executeTakeFirst(),
  )
  if (!mail) return
  try {
    await smtp().sendMail({
      from: config().MAIL_FROM,
      to: { name: mail.to_name, address: mail.to_address },
      subject: mail.subject,
      text: mail.body,
      messageId: `<${id}@kedge>`,
      headers: { 'X-Kedge-School': schoolId },
    })
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error)
    await inSchool((db) =>
      db
        .updateTable('mail')
        .set({ state: last ? 'failed' : 'waiting', error: reason })
        .where('id', '=', id)
        .execute(),
    )
    throw error
  }
  await inSchool((db) =>
    db
      .updateTable('mail')
      .set({ state: 'sent', error: null, sent_at: sql`kedge_now()` })
      .where('id', '=', id)
      .execute(),
  )
}
