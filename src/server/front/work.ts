import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import { roles, staffRoles } from '@/server/platform/actor'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineDomain, defineQuery, nameOf } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { workTopic } from '@/server/platform/job'
import { onlyRoles, whereMay, type Relation, type Right } from '@/server/platform/rights'
import { fromAll } from './all'

const { refuse } = refusals('work', {
  ended: () => 'This work has already ended.',
  notEnded: () => 'This work is still running. Cancel it first.',
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

/** Whether the actor may still do what a kind of work does, judged by the object that the work was asked for. */
const mayStill = (context: Context): RawBuilder<boolean> => {
  const kinds = fromAll((domain) => Object.values(domain.jobs ?? {})).map(
    (job) => sql<boolean>`(own.kind = ${nameOf(job)}
      and ${whereMay(context, job.right as Right<never>, objectOf(job.about))})`,
  )
  return sql<boolean>`(${sql.join(kinds, sql` or `)})`
}

const objectOf = (key: string | undefined) =>
  key === undefined ? sql`null::uuid` : sql`(own.input::jsonb ->> ${key})::uuid`

const askedAndStillMay: Relation = {
  words: 'asked for it and may still do what it did',
  holds: (context, job) =>
    sql<boolean>`exists (select 1 from job own where own.id = ${job}
      and own.account_id = ${context.actor.accountId} and ${mayStill(context)})`,
}

/** Reading the result of background work: whoever lost the right to it since reads it no more. */
export const readResult: Right<{ jobId: string }> = {
  ...steerWork,
  words: 'read the result of background work',
  grants: [{ roles, when: askedAndStillMay }],
}

/** How long work stays in sight, and the most of it that is shown. */
const shown = { days: 30, most: 20 } as const

/** The actor's background work of late: first what was neither fetched nor dismissed, and the newest first. */
export const ownWork = ({ db, actor, now }: Context) =>
  db
    .selectFrom('job')
    .select([
      'id',
      'title',
      'state',
      'done',
      'total',
      'message',
      'documentId',
      'createdAt',
      'finishedAt',
      'dismissedAt',
    ])
    .where('accountId', '=', actor.accountId)
    .where('createdAt', '>', new Date(now.getTime() - shown.days * 86_400_000).toISOString())
    .orderBy(sql`dismissed_at is not null`)
    .orderBy('id', 'desc')
    .limit(shown.most)
    .execute()

/** The actor's background work of late. */
const list = defineQuery({
  input: z.object({}),
  right: onlyRoles('see their own background work', ...staffRoles),
  topics: ({ actor }) => [workTopic(actor.accountId)],
  run: ownWork,
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
        dismissedAt: null,
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

/** Takes work that has ended out of the head of the pages; what it made stays. */
const dismiss = defineCommand({
  input: z.object({ jobId: id }),
  right: { ...steerWork, words: 'dismiss background work that has ended' },
  run: async (context, { jobId }) => {
    const gone = await context.db
      .updateTable('job')
      .set({ dismissedAt: sql<string>`coalesce(dismissed_at, ${context.now})` })
      .where('id', '=', jobId)
      .where('state', 'in', ['done', 'failed', 'cancelled'])
      .returning('id')
      .executeTakeFirst()
    if (!gone) throw refuse('notEnded', {})
    context.changed(workTopic(context.actor.accountId))
    return null
  },
})

/** Notes that whoever asked for a file has it; its work need not be shown any more. */
const noteFetched = defineCommand({
  input: z.object({ documentId: id }),
  right: onlyRoles('note that the result of their own background work was fetched', ...roles),
  by: 'server',
  run: async (context, { documentId }) => {
    const fetched = await context.db
      .updateTable('job')
      .set({ dismissedAt: context.now })
      .where('documentId', '=', documentId)
      .where('accountId', '=', context.actor.accountId)
      .where('dismissedAt', 'is', null)
      .returning('id')
      .execute()
    if (fetched.length > 0) context.changed(workTopic(context.actor.accountId))
    return null
  },
})

/** Background work. */
export const work = defineDomain({
  name: 'work',
  tables: ['job', 'occurrence'],
  reads: [],
  queries: { list },
  commands: { cancel, retry, dismiss, noteFetched },
  files: [{ table: 'job', column: 'document_id', right: readResult, object: 'id', days: 30 }],
})
