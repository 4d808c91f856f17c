import { sql } from 'kysely'
import { z } from 'zod'
import { roles, staffRoles } from '@/server/platform/actor'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { workTopic } from '@/server/platform/job'
import { onlyRoles, type Relation, type Right } from '@/server/platform/rights'

const { refuse } = refusals('work', {
  ended: () => 'This work has already ended.',
  alive: () => 'This work is running or has finished; there is nothing to try again.',
})

const askedForIt: Relation = {
  words: 'asked for it',
  holds: ({ actor }, job) =>
    sql<boolean>`exists (select 1 from job own where own.id = ${job} and own.account_id = ${actor.accountId})`,
}

const steerWork: Right<{ jobId: string }> = {
  words: 'cancel background work or try it again',
  grants: [{ roles, when: askedForIt }],
  object: 'job',
  of: ({ jobId }) => jobId,
}

/** Reading the result of background work. */
export const readResult: Right<{ jobId: string }> = {
  ...steerWork,
  words: 'read the result of background work',
}

/** The actor's background work of late, newest first. */
const list = defineQuery({
  input: z.object({}),
  right: onlyRoles('see their own background work', ...staffRoles),
  topics: ({ actor }) => [workTopic(actor.accountId)],
  run: ({ db, actor }) =>
    db
      .selectFrom('job')
      .select([
        'id',
        'kind',
        'title',
        'state',
        'done',
        'total',
        'message',
        'documentId',
        'attempts',
        'createdAt',
        'finishedAt',
        'input',
      ])
      .where('accountId', '=', actor.accountId)
      .orderBy('id', 'desc')
      .limit(12)
      .execute(),
})

/** Stops work between two of its steps. What is done stays done; doing it again adds the rest. */
const cancel = defineCommand({
  input: z.object({ jobId: id }),
  right: steerWork,
  run: async (context, { jobId }) => {
    const stopped = await context.db
      .updateTable('job')
      .set({
        cancelAsked: true,
        state: sql<'cancelled'>`case when state = 'waiting' then 'cancelled' else state end`,
      })
      .where('id', '=', jobId)
      .where('state', 'in', ['waiting', 'running'])
      .returning('id')
      .executeTakeFirst()
    if (!stopped) throw refuse('ended', {})
    context.changed(workTopic(context.actor.accountId))
    return null
  },
})

/** Takes work up again that failed or was cancelled. */
const retry = defineCommand({
  input: z.object({ jobId: id }),
  right: steerWork,
  run: async (context, { jobId }) => {
    const again = await context.db
      .updateTable('job')
      // It begins anew: what was done before may have changed since, and each step finds out by itself.
      .set({
        cancelAsked: false,
        state: 'waiting',
        message: null,
        finishedAt: null,
        finished: sql<string>`null`,
        createdAt: context.now,
      })
      .where('id', '=', jobId)
      .where('state', 'in', ['failed', 'cancelled'])
      .returning('id')
      .executeTakeFirst()
    if (!again) throw refuse('alive', {})
    await sql`select kedge_enqueue(${context.actor.schoolId}, 'run-job', ${jobId})`.execute(context.db)
    context.changed(workTopic(context.actor.accountId))
    return null
  },
})

/** Background work. */
export const work = defineDomain({
  name: 'work',
  tables: ['job', 'occurrence'],
  reads: [],
  queries: { list },
  commands: { cancel, retry },
  files: [{ table: 'job', column: 'document_id', right: readResult, object: 'id', days: 30 }],
})
