import { simpleParser } from 'mailparser'
import { SMTPServer } from 'smtp-server'
import { mailTopic } from '@/server/front/mail'
import { log } from '@/server/platform/log'
import { asClock } from './run-job'

/**
 * A mail server that keeps every mail in the database instead of sending it, so that nothing leaves the machine.
 * The same Message-ID is kept once.
 * @param port on the loopback address
 */
export async function startMailbox(port: number): Promise<{ stop: () => Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    logger: false,
    onData(stream, _session, done) {
      keep(stream).then(
        () => done(),
        (error: Error) => {
          log().error({ error: error.message }, 'the mailbox could not keep a mail')
          done(error)
        },
      )
    },
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve())
  })
  return { stop: () => new Promise((resolve) => server.close(() => resolve())) }
}

async function keep(stream: NodeJS.ReadableStream): Promise<void> {
  const mail = await simpleParser(stream as Parameters<typeof simpleParser>[0])
  const schoolId = String(mail.headers.get('x-kedge-school') ?? '')
  const recipient = Array.isArray(mail.to) ? mail.to[0] : mail.to
  await asClock(schoolId, 'mailbox.receive', async ({ db, now, changed }) => {
    await db
      .insertInto('standIn.mailbox')
      .values({
        schoolId,
        messageId: mail.messageId ?? '',
        receivedAt: now,
        sender: mail.from?.text ?? '',
        recipient: recipient?.text ?? '',
        subject: mail.subject ?? '',
        body: mail.text ?? '',
      })
      .onConflict((c) => c.doNothing())
      .execute()
    changed(mailTopic())
  })
}
