import { sql } from 'kysely'
import { z } from 'zod'
import { refuse } from '@/server/platform/failure'
import { id } from '@/server/platform/inputs'
import { defineCommand, defineQuery, type Policy } from '@/server/platform/registry'
import { staffRoles } from '@/server/platform/relations'
import { hasRole } from '@/server/platform/actor'
import { workTopic } from './ask-for-work'

const ownJob: Policy<{ jobId: string }> = async ({ db, actor }, { jobId }) =>
  (await db
    .selectFrom('job')
    .select('id')
    .where('id', '=', jobId)
    .where('account_id', '=', actor.accountId)
    .executeTakeFirst()) !== undefined

/** The actor's background work of late, newest first. */
export const list = defineQuery({
  name: 'work.list',
  input: z.object({ accountId: z.string() }),
  allow: ({ actor }, { accountId }) => hasRole(actor, ...staffRoles) && accountId === actor.accountId,
  topic: ({ accountId }) => workTopic(accountId),
  run: async ({ db, actor }) => {
    const rows = await db
      .selectFrom('job')
      .select([
        'id',
        'kind',
        'title',
        'state',
        'done',
        'total',
        'message',
        'document_id',
        'attempts',
        'created_at',
        'finished_at',
        'input',
      ])
      .where('account_id', '=', actor.accountId)
      .orderBy('id', 'desc')
      .limit(12)
      .execute()
    return rows.map((r) => ({
      ...r,
      created_at: r.created_at.toISOString(),
      finished_at: r.finished_at?.toISOString() ?? null,
    }))
  },
})

/** Stops work between two of its steps. What is done stays done; doing it again adds the rest. */
export const cancel = defineCommand({
  name: 'work.cancel',
  input: z.object({ jobId: id }),
  allow: ownJob,
  run: async (context, { jobId }) => {
    const stopped = await context.db
      .updateTable('job')
      .set({ cancel_asked: true, state: sql`case when state = 'waiting' then 'cancelled' else state end` })
      .where('id', '=', jobId)
      .where('state', 'in', ['waiting', 'running'])
      .returning('id')
      .executeTakeFirst()
    if (!stopped) throw refuse('This work has ended already.')
    await context.changed(workTopic(context.actor.accountId))
    return null
  },
})

/** Takes work up again that failed or was cancelled. */
export const retry = defineCommand({
  name: 'work.retry',
  input: z.object({ jobId: id }),
  allow: ownJob,
  run: async (context, { jobId }) => {
    const again = await context.db
      .updateTable('job')
      .set({ cancel_asked: false, state: 'waiting', message: null, finished_at: null })
      .where('id', '=', jobId)
      .where('state', 'in', ['failed', 'cancelled'])
      .returning('id')
      .executeTakeFirst()
    if (!again) throw refuse('This work is under way or done; there is nothing to take up again.')
    await sql`select kedge_enqueue(${context.actor.schoolId}, 'run-job', ${jobId})`.execute(context.db)
    await context.changed(workTopic(context.actor.accountId))
    return null
  },
})
