import { sql, type RawBuilder } from 'kysely'
import { z } from 'zod'
import { largeActInput } from '@/core/work-input'
import { roles, staffRoles } from '@/server/platform/actor'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineDomain, defineQuery, nameOf, type AnyCommand } from '@/server/platform/define'
import { notFound, Refusal, refusals, type Json } from '@/server/platform/failure'
import { id } from '@/core/inputs'
import { defineJob, startJob, workTopic } from '@/server/platform/job'
import { onlyRoles, whereMay, type Relation, type Right } from '@/server/platform/rights'
import { fromAll } from './all'
import { describeRun } from './describe'
import { undo } from './history'

const { refuse } = refusals('work', {
  notLarge: () => 'This runs at once, not as background work.',
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
  const kinds = [...fromAll((domain) => Object.values(domain.jobs ?? {})), largeAct].map(
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
    .select((eb) =>
      eb
        .selectFrom('commandRun as r')
        .select('r.id')
        .whereRef('r.id', '=', 'job.runId')
        .where('r.undoneAt', 'is', null)
        .as('runId'),
    )
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
  needsNoVersion: 'a state, compared',
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
  needsNoVersion: 'a state, compared',
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
        result: sql<string>`null`,
        runId: null,
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
  needsNoVersion: 'a state, compared',
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
  needsNoVersion: 'noted once',
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

const largeCommands = (): ReadonlyMap<string, AnyCommand> =>
  new Map(
    [...fromAll<AnyCommand>((domain) => Object.values(domain.commands)), undo].flatMap((command) =>
      command.large ? [[nameOf(command), command] as const] : [],
    ),
  )

/**
 * Carries out a command that is too large to be waited for, or says what it would change. It is done as a whole or not
 * at all.
 */
const largeAct = defineJob({
  input: largeActInput,
  right: onlyRoles('carry out a large act as background work', ...staffRoles),
  isWhole: true,
  run: async (steps, { command: name, input, preview, fingerprint }) => {
    const command = largeCommands().get(name)
    if (!command) throw refuse('notLarge', {})
    if (preview) {
      const result = await steps.preview(command, input, describeRun)
      return { message: 'worked out', result: { preview: { ...result } } as unknown as Json, isQuiet: true }
    }
    const expecting = fingerprint === undefined ? undefined : { fingerprint, describe: describeRun }
    const { value, run } = await steps.act(command, input, { expecting })
    return {
      message: 'saved',
      result: { value } as Json,
      ...(command.undo && run ? { runId: run } : {}),
    }
  },
})

/** Asks for a large act, or for its preview, as background work. */
const begin = defineCommand({
  input: largeActInput,
  right: onlyRoles('ask for a large act as background work', ...staffRoles),
  needsNoVersion: 'starts work',
  run: async (context, act) => {
    const command = largeCommands().get(act.command)
    const input = command?.input.safeParse(act.input)
    if (!command?.large || !input?.success || !(await context.may(command.right, input.data)))
      throw new Refusal(notFound)
    const title = await command.large.title(context, input.data)
    return {
      jobId: await startJob(context, largeAct, act, {
        title: act.preview ? `Preview of ${title}` : title,
      }),
    }
  },
})

/** What came of background work that a page waits for. */
const result = defineQuery({
  input: z.object({ jobId: id }),
  right: readResult,
  run: ({ db }, { jobId }) =>
    db
      .selectFrom('job')
      .select(['state', 'message', 'result', 'runId'])
      .where('id', '=', jobId)
      .executeTakeFirstOrThrow(),
})

/** Background work. */
export const work = defineDomain({
  name: 'work',
  tables: ['job', 'occurrence'],
  reads: [],
  queries: { list, result },
  commands: { begin, cancel, retry, dismiss, noteFetched },
  jobs: { largeAct },
  files: [{ table: 'job', column: 'document_id', right: readResult, object: 'id', days: 30 }],
})
