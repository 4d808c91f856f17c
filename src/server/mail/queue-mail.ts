import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Context } from '@/server/platform/registry'

export interface MailToSend {
  /** Names the occasion: a second mail with the same text here is not made. */
  readonly dedupe: string
  readonly toName: string
  readonly toAddress: string
  readonly subject: string
  readonly body: string
  readonly studentId?: string
  readonly guardianId?: string
}

/** Puts mails on record and asks the worker to send those that are new once the transaction is committed. */
export async function queueMails({ db, actor }: Context, mails: readonly MailToSend[]): Promise<void> {
  if (mails.length === 0) return
  const made = await db
    .insertInto('mail')
    .values(
      mails.map((mail) => ({
        school_id: actor.schoolId,
        id: uuid(),
        dedupe: mail.dedupe,
        to_name: mail.toName,
        to_address: mail.toAddress,
        subject: mail.subject,
        body: mail.body,
        student_id: mail.studentId ?? null,
        guardian_id: mail.guardianId ?? null,
      })),
    )
    .onConflict((c) => c.columns(['school_id', 'dedupe']).doNothing())
    .returning('id')
    .execute()
  await sql`
    select kedge_enqueue(${actor.schoolId}, 'send-mail', made.id)
    from unnest(${made.map((m) => m.id)}::uuid[]) as made(id)`.execute(db)
}
