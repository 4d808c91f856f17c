/* eslint-disable no-await-in-loop -- tried again, one after the other */
import { createHmac } from 'node:crypto'
import { setTimeout } from 'node:timers/promises'
import { sql } from 'kysely'
import { v7 as uuid } from 'uuid'
import { limits } from '@/core/limits'
import type { Actor } from './actor'
import { config } from './config'
import type { Context, RunOptions } from './context'
import { actInSchool } from './in-school'
import { failureOf, passes } from './database-errors'
import { nameOf, type Command, type Query } from './entry'
import { Cancelled } from './cancelled'
import { invalid, notFound, Refusal, refusals, unavailable, type Result } from './failure'
import { log } from './log'
import { previewOf, type Describe, type Expecting, type Preview } from './preview'
import type { Topic } from './topic'
import { Busy, turns } from './turns'
import { unstorable } from './unstorable'

const { refuse } = refusals('platform', {
  keyReused: () =>
    'This was already sent with other contents. Reload the page and check what has been saved.',
})

const tries = 5

/**
 * Works in one transaction; what passes, as a race between two people does, is tried again a few times. A refusal is an answer, and so is
 * every other error: what is a fault of ours is logged and answered as such.
 */
async function settle<T>(name: string, work: () => Promise<T>): Promise<Result<T>> {
  for (let attempt = 1; ; attempt++) {
    try {
      return { ok: true, value: await work() }
    } catch (error) {
      if (error instanceof Cancelled) throw error
      if (passes(error) && attempt < tries) {
        await setTimeout(Math.random() * 20 * attempt)
        continue
      }
      const failure = failureOf(error)
      if (failure.kind === 'fault' || failure.kind === 'unavailable')
        log().error({ name, error: error instanceof Error ? error.stack : String(error) }, failure.kind)
      return { ok: false, failure }
    }
  }
}

/** One moment of the school, for reading. */
const inMoment = <T>(actor: Actor, command: string, work: (context: Context) => Promise<T>): Promise<T> =>
  actInSchool(actor, { command }, work, { isOneMoment: true, isReadOnly: true })

const read = <T>(name: string, actor: Actor, work: (context: Context) => Promise<T>): Promise<Result<T>> =>
  settle(name, () => inMoment(actor, name, work))

/** Those over a whole school's marks have two connections among them, so that a dozen do not hold up all others. */
const heavy = turns('a query over a whole school', { atOnce: 2, mostWaiting: 20 })

/** Works in some moment: one of its own, or one that a whole page shares. */
type Reading = <T>(name: string, work: (context: Context) => Promise<T>) => Promise<Result<T>>

/** Answers a query for an actor, from one moment: all its statements see the same state of the database. */
export function executeQuery<I, O>(query: Query<I, O>, actor: Actor, rawInput: unknown): Promise<Result<O>> {
  return executeQueryIn((name, work) => read(name, actor, work), query, rawInput)
}

async function executeQueryIn<I, O>(
  reading: Reading,
  query: Query<I, O>,
  rawInput: unknown,
): Promise<Result<O>> {
  const bad = unstorable(rawInput)
  if (bad) return { ok: false, failure: bad }
  const input = query.input.safeParse(rawInput)
  if (!input.success) return { ok: false, failure: invalid(input.error) }
  const answer = () =>
    reading(nameOf(query), async (context) => {
      if (!(await context.may(query.right, input.data))) throw new Refusal(notFound)
      return query.run(context, input.data)
    })
  if (!query.isHeavy) return answer()
  return heavy.take(answer).catch((error: unknown) => {
    if (error instanceof Busy) return { ok: false, failure: unavailable }
    throw error
  })
}

/** How long a shared moment waits for the next query of its page, in milliseconds. */
const lull = 4

interface Shared {
  readonly context: Promise<Context>
  asking: number
  /** Only when nobody works in it: its connection is then another's. */
  readonly end: () => void
}

/**
 * Answers the queries of one page from one moment: they see the same state of the database, and what several of them look
 * up is looked up once. The moment lasts as long as the page asks; what it asks later has one of its own.
 */
export function executeTogether(
  actor: Actor,
): <I, O>(query: Query<I, O>, rawInput: unknown) => Promise<Result<O>> {
  let shared: Shared | undefined
  function open(): Shared {
    let end = () => {}
    const over = new Promise<void>((resolve) => (end = resolve))
    const context = new Promise<Context>((resolve, reject) => {
      inMoment(actor, 'page', (opened) => {
        resolve(opened)
        return over
      }).catch(reject)
    })
    return { context, asking: 0, end }
  }
  function leave(moment: Shared): void {
    moment.asking--
    globalThis.setTimeout(() => {
      if (moment.asking > 0) return
      if (shared === moment) shared = undefined
      moment.end()
    }, lull)
  }
  const reading: Reading = async (name, work) => {
    const moment = (shared ??= open())
    moment.asking++
    try {
      const value = await work(await moment.context)
      leave(moment)
      return { ok: true, value }
    } catch (error) {
      leave(moment)
      if (error instanceof Refusal) return { ok: false, failure: error.failure }
      // An error ends the moment for all who share it: the next have another, and this one is tried by itself.
      if (shared === moment) shared = undefined
      return read(name, actor, work)
    }
  }
  return (query, rawInput) =>
    query.isHeavy ? executeQuery(query, actor, rawInput) : executeQueryIn(reading, query, rawInput)
}

/**
 * The topics that the answers of several queries follow, looked up at one moment: a page follows up to twenty.
 * @returns the topics of each query, or why one of them may not be asked
 */
export async function topicsOfAll(
  wanted: readonly { readonly query: Query; readonly input: unknown }[],
  actor: Actor,
): Promise<Result<readonly (readonly Topic[])[]>> {
  const ready: { query: Query; input: unknown }[] = []
  for (const { query, input: rawInput } of wanted) {
    const bad = unstorable(rawInput)
    if (bad) return { ok: false, failure: bad }
    const input = query.input.safeParse(rawInput)
    if (!input.success) return { ok: false, failure: invalid(input.error) }
    ready.push({ query, input: input.data })
  }
  return read('live', actor, async (context) => {
    const all: (readonly Topic[])[] = []
    for (const { query, input } of ready) {
      if (!query.topics || !(await context.may(query.right, input))) throw new Refusal(notFound)
      all.push(await query.topics(context, input))
    }
    return all
  })
}

export interface CommandOptions {
  /** Idempotency key (UUID): the same key with the same input is carried out once, and answered the same again. */
  readonly key?: string
  /** The browser tab that asks, so that it need not be told of its own change. */
  readonly tab?: string
  /** Runs as background work, however large it is, and says how far it is. */
  readonly progress?: Context['progress']
  /** What a preview showed: when the act would now do something else, it is not done. */
  readonly expecting?: Expecting
}

/** Carries out a command for an actor. */
export async function executeCommand<I, O>(
  command: Command<I, O>,
  actor: Actor,
  rawInput: unknown,
  { key, tab, expecting, progress }: CommandOptions = {},
): Promise<Result<O>> {
  const name = nameOf(command)
  const bad = unstorable(rawInput)
  if (bad) return { ok: false, failure: bad }
  const input = command.input.safeParse(rawInput)
  if (!input.success) return { ok: false, failure: invalid(input.error) }
  const inputHash = key === undefined ? '' : hashOf(rawInput)
  const answered = await settle(name, () => {
    const options: RunOptions = { command: name, runId: uuid(), tab, progress }
    return transaction(command, actor, options, async (context) => {
      // What one statement does not need of another goes out together with it.
      const [earlier, may] = await Promise.all([
        key ? claimKey(context, name, key, inputHash) : undefined,
        context.may(command.right, input.data),
      ])
      if (earlier) return { value: earlier.answer as O, run: earlier.runId ?? '' }
      if (!may) throw new Refusal(notFound)
      if (!progress) await refuseLarge(context, command, input.data)
      const value = await command.run(context, input.data)
      if (expecting) await compareWithPreview(context, expecting)
      context.lastly(
        () => (command.undo ? keepRun(context, name, input.data) : undefined),
        () => (key ? keepAnswer(context, key, value) : undefined),
      )
      return { value, run: context.runId }
    })
  })
  return answered.ok ? { ok: true, value: answered.value.value, run: answered.value.run } : answered
}

/** A page does not wait for what changes thousands of rows. */
async function refuseLarge<I>(context: Context, { large }: Command<I>, input: I): Promise<void> {
  if (!large) return
  const rows = await large.rows(context, input)
  if (rows <= limits.actAtOnce) return
  throw new Refusal({
    kind: 'large',
    rows,
    message: 'This changes too many records to wait for, so it runs as background work.',
  })
}

/** Thrown at the end of a dry run, so that nothing of it stays. */
class DryRun extends Error {
  constructor(readonly preview: Preview) {
    super('dry run')
  }
}

/** What a command would change: it runs in its transaction, its history is read, and everything is rolled back. */
export async function preview<I>(
  command: Command<I>,
  actor: Actor,
  rawInput: unknown,
  describe: Describe,
  progress?: Context['progress'],
): Promise<Result<Preview>> {
  const name = nameOf(command)
  const bad = unstorable(rawInput)
  if (bad) return { ok: false, failure: bad }
  const input = command.input.safeParse(rawInput)
  if (!input.success) return { ok: false, failure: invalid(input.error) }
  return settle(name, async () => {
    try {
      return await transaction(
        command,
        actor,
        { command: name, runId: uuid(), progress },
        async (context): Promise<Preview> => {
          if (!(await context.may(command.right, input.data))) throw new Refusal(notFound)
          if (!progress) await refuseLarge(context, command, input.data)
          await command.run(context, input.data)
          throw new DryRun(await previewOf(context, describe))
        },
      )
    } catch (error) {
      if (error instanceof DryRun) return error.preview
      throw error
    }
  })
}

const transaction = <T>(
  { moment }: Pick<Command, 'moment'>,
  actor: Actor,
  options: RunOptions,
  work: (context: Context) => Promise<T>,
): Promise<T> => actInSchool(actor, options, work, { isOneMoment: moment === 'one' })

async function compareWithPreview(context: Context, { fingerprint, describe }: Expecting): Promise<void> {
  const now = await previewOf(context, describe)
  if (now.fingerprint === fingerprint) return
  throw new Refusal({
    kind: 'preview changed',
    message:
      'The data has changed since this preview was made. Nothing has been changed yet; check the new preview.',
    preview: now,
  })
}

/** Files and photos stay where they are stored, and are gone when they are deleted there. */
function withoutFiles(this: unknown, key: string, value: unknown): unknown {
  return (this as Record<string, unknown>)[key] instanceof Uint8Array ? null : value
}

/** Kept for commands that can be undone: who ran what with which input. */
async function keepRun({ db, actor, runId, now }: Context, command: string, input: unknown): Promise<void> {
  await db
    .insertInto('commandRun')
    .values({
      schoolId: actor.schoolId,
      id: runId,
      command,
      input: JSON.stringify(input, withoutFiles),
      accountId: actor.accountId,
      at: now,
    })
    .execute()
}

/**
 * A text of the input that does not depend on the order of its keys; bytes count by their contents. Under the
 * installation's secret, since an input may be a password.
 */
function hashOf(input: unknown): string {
  const hash = createHmac('sha256', config().KEDGE_SECRET)
  const add = (value: unknown): void => {
    if (value instanceof Uint8Array) hash.update('bytes').update(value)
    else if (Array.isArray(value)) {
      hash.update('[')
      for (const item of value) add(item)
      hash.update(']')
    } else if (typeof value === 'object' && value !== null) {
      hash.update('{')
      for (const key of Object.keys(value).sort()) {
        const inner = (value as Record<string, unknown>)[key]
        if (inner === undefined) continue
        hash.update(JSON.stringify(key))
        add(inner)
      }
      hash.update('}')
    } else hash.update(JSON.stringify(value) ?? 'undefined')
  }
  add(input)
  return hash.digest('base64url')
}

/** Takes the key for this transaction. A second holder waits here until the first is done, then gets its answer. */
async function claimKey({ db, actor, runId }: Context, command: string, key: string, inputHash: string) {
  const own = { schoolId: actor.schoolId, accountId: actor.accountId, key }
  const claimed = await db
    .insertInto('answeredCommand')
    .values({ ...own, command, answer: 'null', runId, inputHash })
    .onConflict((c) => c.doNothing())
    .returning('key')
    .executeTakeFirst()
  if (claimed) return undefined
  const earlier = await db
    .selectFrom('answeredCommand')
    .select(['answer', 'command', 'runId', 'inputHash'])
    .where((eb) => eb.and(own))
    .executeTakeFirstOrThrow()
  if (earlier.command !== command || (earlier.inputHash ?? inputHash) !== inputHash)
    throw refuse('keyReused', {})
  return earlier
}

async function keepAnswer({ db, actor }: Context, key: string, answer: unknown): Promise<void> {
  await db
    .updateTable('answeredCommand')
    .set({ answer: JSON.stringify(answer ?? null) })
    .where((eb) => eb.and({ schoolId: actor.schoolId, accountId: actor.accountId, key }))
    .execute()
}

/** Forgets the answers of commands after a week: a repetition comes within days, if at all. */
export async function forgetAnswers({ db }: Context): Promise<void> {
  await db
    .deleteFrom('answeredCommand')
    .where('at', '<', sql<string>`clock_timestamp() - interval '7 days'`)
    .execute()
}
