import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Context } from './context'
import { nameOf } from './entry'

/** A kind of mail: a template, with an example that previews and tests use. */
export interface MailKind<A = unknown> {
  readonly subject: (about: A) => string
  /** `link` is there for kinds that carry one. */
  readonly body: (about: A, link: string) => string
  /**
   * Makes the secret link of a kind that carries one, when the mail is sent. Such a body is never stored: neither
   * with the mail nor in the history.
   */
  readonly link?: (context: Context, about: A) => Promise<string>
  readonly example: A
}

/** Declares a kind of mail. */
export function defineMail<A extends object>(kind: MailKind<A>): MailKind<A> {
  return kind
}

export interface MailToSend<A> {
  /** Names the occasion: a second mail with the same text here is not made. */
  readonly dedupe: string
  readonly toName: string
  readonly toAddress: string
  readonly about: A
  readonly studentId?: string
  readonly guardianId?: string
}

/** Puts mails on record and asks the worker to send those that are new once the transaction is committed. */
export async function queueMails<A>(
  { db, actor, now }: Context,
  kind: MailKind<A>,
  mails: readonly MailToSend<A>[],
): Promise<void> {
  if (mails.length === 0) return
  const made = await db
    .insertInto('mail')
    .values(
      mails.map((mail) => ({
        schoolId: actor.schoolId,
        id: uuid(),
        kind: nameOf(kind),
        about: JSON.stringify(mail.about),
        dedupe: mail.dedupe,
        toName: mail.toName,
        toAddress: mail.toAddress,
        subject: kind.subject(mail.about),
        body: kind.link ? null : kind.body(mail.about, ''),
        studentId: mail.studentId ?? null,
        guardianId: mail.guardianId ?? null,
        createdAt: now,
      })),
    )
    .onConflict((c) => c.columns(['schoolId', 'dedupe']).doNothing())
    .returning('id')
    .execute()
  await sendSoon(
    { db, actor },
    made.map((m) => m.id),
  )
}

/** Asks the worker to send mails that are on record. */
export async function sendSoon(
  { db, actor }: Pick<Context, 'db' | 'actor'>,
  mailIds: readonly string[],
): Promise<void> {
  await sql`
    select kedge_enqueue(${actor.schoolId}, 'send-mail', mail.id)
    from unnest(${[...mailIds]}::uuid[]) as mail(id)`.execute(db)
}
