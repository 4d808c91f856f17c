import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import type { z } from 'zod'
import type { Actor } from './actor'
import type { Context } from './context'
import { nameOf, type Command, type Query } from './entry'
import { refusals, type Json } from './failure'
import type { Describe, Preview } from './preview'
import type { Right } from './rights'
import type { Expecting } from './preview'
import { defineTopic } from './topic'

const { refuse } = refusals('work', {
  alreadyRunning: ({ title }: { title: string }) =>
    `“${title}” is already running. Wait until it has finished, or cancel it first.`,
})

/** What a job works with. Everything goes through the registry, in the name of whoever asked for it. */
export interface Steps {
  readonly jobId: string
  readonly actor: Actor
  readonly title: string
  /** When it was asked for. */
  readonly createdAt: string
  readonly query: <I, O>(query: Query<I, O>, input: I) => Promise<O>
  readonly execute: <I, O>(command: Command<I, O>, input: I) => Promise<O>
  /** Carries out a command once, however often the work is taken up, or says what it would change. */
  readonly act: <I, O>(
    command: Command<I, O>,
    input: unknown,
    options: { readonly expecting?: Expecting },
  ) => Promise<{ readonly value: O; readonly run: string | undefined }>
  readonly preview: <I>(command: Command<I>, input: unknown, describe: Describe) => Promise<Preview>
  /** Says how far it is; throws when the work was cancelled. */
  readonly progress: (done: number, total: number) => Promise<void>
  /**
   * Does a step for each of many, with progress, until cancelled. After a crash it goes on behind the last step
   * that was noted; a step may then run once more, so each must bear that.
   */
  readonly each: <T>(
    all: readonly T[],
    keyOf: (one: T) => string,
    step: (one: T) => Promise<void>,
  ) => Promise<void>
}

export interface JobEnd {
  readonly message: string
  readonly documentId?: string
  /** What the page that waits for it reads. */
  readonly result?: Json
  /** The run of a command that can be undone. */
  readonly runId?: string
  /** Its end is news to nobody but the page that asked. */
  readonly isQuiet?: boolean
}

/** Background work of one kind. */
export interface Job<I = unknown> {
  readonly input: z.ZodType<I>
  readonly right: Right<I>
  /** The key of the input that holds the object of the right; the result is readable while the right to it lasts. */
  readonly about?: keyof I & string
  /** Cancelled or failed, it has changed nothing. */
  readonly isWhole?: boolean
  readonly run: (steps: Steps, input: I) => Promise<JobEnd>
}

/** Declares background work. A refusal in it ends it with that sentence; any other error is tried again. */
export function defineJob<I>(job: Job<I>): Job<I> {
  return job
}

/** One person's background work. */
export const workTopic = defineTopic<[accountId: string]>('work', 'account')

/**
 * Puts work on record and asks the worker for it once the transaction is committed.
 * @param options.aliveOnce of work with the same text here only one may be waiting or running
 * @returns the job's id
 */
export async function startJob<I>(
  context: Context,
  job: Job<I>,
  input: I,
  { title, aliveOnce }: { title: string; aliveOnce?: string },
): Promise<string> {
  const { db, actor, now } = context
  const jobId = uuid()
  const made = await db
    .insertInto('job')
    .values({
      schoolId: actor.schoolId,
      id: jobId,
      kind: nameOf(job),
      title,
      input: JSON.stringify(input),
      liveKey: aliveOnce ?? null,
      accountId: actor.accountId,
      actor: actor.name,
      createdAt: now,
    })
    .onConflict((c) => c.doNothing())
    .returning('id')
    .executeTakeFirst()
  if (!made) throw refuse('alreadyRunning', { title })
  await sql`select kedge_enqueue(${actor.schoolId}, 'run-job', ${jobId})`.execute(db)
  context.changed(workTopic(actor.accountId))
  return jobId
}
