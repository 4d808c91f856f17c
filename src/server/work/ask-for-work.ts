import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { Context } from '@/server/platform/registry'

/** The topic of one person's background work. */
export const workTopic = (accountId: string) => `work:${accountId}`

/** Puts background work on record and asks the worker for it once the transaction is committed. Answers its id. */
export async function askForWork(
  context: Context,
  kind: 'print cards' | 'release cards',
  title: string,
  input: unknown,
): Promise<string> {
  const { db, actor, now } = context
  const jobId = uuid()
  await db
    .insertInto('job')
    .values({
      school_id: actor.schoolId,
      id: jobId,
      kind,
      title,
      input: JSON.stringify(input),
      account_id: actor.accountId,
      actor: actor.name,
      created_at: now,
    })
    .execute()
  await sql`select kedge_enqueue(${actor.schoolId}, 'run-job', ${jobId})`.execute(db)
  await context.changed(workTopic(actor.accountId))
  return jobId
}
