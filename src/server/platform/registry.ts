import { sql, type Transaction } from 'kysely'
import { z } from 'zod'
import type { Tables } from '@/db/tables'
import { hasRole, type Actor } from './actor'
import { clockIsSet, now, today } from './clock'
import { database } from './database'
import { invalid, notFound, Refusal, type Result } from './failure'

/** What a query or command works with: one transaction, with the actor's school set for row-level security. */
export interface Context {
  readonly db: Transaction<Tables>
  readonly actor: Actor
  readonly now: Date
  /** Today's civil date where the school is. */
  readonly today: string
  /** Tells everyone looking at a topic that it changed, once the transaction is committed. */
  readonly changed: (topic: string) => Promise<void>
}

/** Decides from role and relation; `false` is answered like "not there". */
export type Policy<I> = (context: Context, input: I) => boolean | Promise<boolean>

export interface Query<N extends string = string, I = unknown, O = unknown, Raw = unknown> {
  readonly kind: 'query'
  readonly name: N
  readonly input: z.ZodType<I, Raw>
  readonly allow: Policy<I>
  /** The topic whose changes make the answer stale; without one the query is not live. */
  readonly topic?: (input: I) => string
  readonly run: (context: Context, input: I) => Promise<O>
}

export interface Command<N extends string = string, I = unknown, O = unknown, Raw = unknown> {
  readonly kind: 'command'
  readonly name: N
  readonly input: z.ZodType<I, Raw>
  readonly allow: Policy<I>
  readonly run: (context: Context, input: I) => Promise<O>
}

/** Declares a read. All reads of a school's data are declared so. */
export function defineQuery<const N extends string, I, O, Raw>(
  query: Omit<Query<N, I, O, Raw>, 'kind'>,
): Query<N, I, O, Raw> {
  return { kind: 'query', ...query }
}

/** Declares a change. Everything it does happens in one transaction, or not at all, and is kept in the history. */
export function defineCommand<const N extends string, I, O, Raw>(
  command: Omit<Command<N, I, O, Raw>, 'kind'>,
): Command<N, I, O, Raw> {
  return { kind: 'command', ...command }
}

/** A policy that looks at the role alone. */
export function onlyRoles(...wanted: Parameters<typeof hasRole>[1][]): Policy<unknown> {
  return ({ actor }) => hasRole(actor, ...wanted)
}

/** Works with the actor's school set. The setting goes out in front of the work's first statement, not before it. */
async function inSchool<T>(
  db: Transaction<Tables>,
  actor: Actor,
  { command, tab }: { command: string; tab?: string },
  work: (context: Context) => Promise<T>,
): Promise<T> {
  const moment = now(actor.timeZone)
  const set =
    sql`select set_config('kedge.school', ${actor.schoolId}, true), set_config('kedge.account', ${actor.accountId}, true),
    set_config('kedge.actor', ${actor.name}, true), set_config('kedge.command', ${command}, true),
    set_config('kedge.now', ${clockIsSet() ? moment.toISOString() : ''}, true)`.execute(db)
  const context: Context = {
    db,
    actor,
    now: moment,
    today: today(actor.timeZone),
    changed: async (topic) => {
      await sql`select pg_notify('kedge', ${JSON.stringify({ school: actor.schoolId, topic, tab })})`.execute(
        db,
      )
    },
  }
  const [, answer] = await Promise.all([set, work(context)])
  return answer
}

async function settle<T>(work: () => Promise<T>): Promise<Result<T>> {
  try {
    return { ok: true, value: await work() }
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, failure: error.failure }
    throw error
  }
}

/** Answers a query for an actor. Failures of the database itself are thrown. */
export async function ask<I, O>(
  query: Query<string, I, O>,
  actor: Actor,
  rawInput: unknown,
): Promise<Result<O>> {
  const input = query.input.safeParse(rawInput)
  if (!input.success) return { ok: false, failure: invalid(input.error) }
  return settle(() =>
    database()
      .transaction()
      .setAccessMode('read only')
      .execute((db) =>
        inSchool(db, actor, { command: query.name }, async (context) => {
          if (!(await query.allow(context, input.data))) throw new Refusal(notFound)
          return query.run(context, input.data)
        }),
      ),
  )
}

/** Whether an actor may ask a query, without running it. */
export async function mayAsk<I>(query: Query<string, I>, actor: Actor, rawInput: unknown): Promise<boolean> {
  const input = query.input.safeParse(rawInput)
  if (!input.success) return false
  return database()
    .transaction()
    .setAccessMode('read only')
    .execute((db) =>
      inSchool(db, actor, { command: query.name }, async (context) => query.allow(context, input.data)),
    )
}

const deadlockOrSerialization = new Set(['40001', '40P01'])

/**
 * Carries out a command for an actor.
 * @param options.key idempotency key (UUID): the same key is carried out once, and answered the same again
 * @param options.tab the browser tab that asks, so that it need not be told of its own change
 */
export async function tell<I, O>(
  command: Command<string, I, O>,
  actor: Actor,
  rawInput: unknown,
  { key, tab }: { key?: string; tab?: string } = {},
): Promise<Result<O>> {
  const input = command.input.safeParse(rawInput)
  if (!input.success) return { ok: false, failure: invalid(input.error) }

  const once = () =>
    database()
      .transaction()
      .execute((db) =>
        inSchool(db, actor, { command: command.name, tab }, async (context) => {
          const earlier = key ? await claimKey(db, actor, command.name, key) : undefined
          if (earlier) return earlier.answer as O
          // One key in 256 clears its school's old ones; a repetition comes within days if at all.
          if (key?.endsWith('00'))
            await sql`delete from answered_command where at < clock_timestamp() - interval '7 days'`.execute(
              db,
            )
          if (!(await command.allow(context, input.data))) throw new Refusal(notFound)
          const answer = await command.run(context, input.data)
          if (key)
            await db
              .updateTable('answered_command')
              .set({ answer: JSON.stringify(answer ?? null) })
              .where('school_id', '=', actor.schoolId)
              .where('account_id', '=', actor.accountId)
              .where('key', '=', key)
              .execute()
          return answer
        }),
      )

  for (let attempt = 1; ; attempt++) {
    try {
      return await settle(once)
    } catch (error) {
      const code = (error as { code?: string }).code ?? ''
      if (attempt === 3 || !deadlockOrSerialization.has(code)) throw error
    }
  }
}

/** Takes the key for this transaction. A second holder waits here until the first is done, then gets its answer. */
async function claimKey(db: Transaction<Tables>, actor: Actor, command: string, key: string) {
  const claimed = await db
    .insertInto('answered_command')
    .values({ school_id: actor.schoolId, account_id: actor.accountId, key, command, answer: 'null' })
    .onConflict((c) => c.doNothing())
    .returning('key')
    .executeTakeFirst()
  if (claimed) return undefined
  const earlier = await db
    .selectFrom('answered_command')
    .select(['answer', 'command'])
    .where('school_id', '=', actor.schoolId)
    .where('account_id', '=', actor.accountId)
    .where('key', '=', key)
    .executeTakeFirstOrThrow()
  if (earlier.command !== command)
    throw new Error(`key ${key} was used for ${earlier.command}, not ${command}`)
  return earlier
}
