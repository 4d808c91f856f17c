import { sql, type Transaction } from 'kysely'
import type { Tables } from '@/db/tables'
import type { Actor } from './actor'
import { clockIsSet, now, today } from './clock'
import type { Right } from './rights'
import { mayDo } from './rights'
import { announcements } from './live'
import type { Topic } from './topic'

/** What a query or command works with: one transaction, with the actor's school set for row-level security. */
export interface Context {
  readonly db: Transaction<Tables>
  readonly actor: Actor
  readonly now: Date
  /** Today's civil date where the school is. */
  readonly today: string
  /** The id of this run of a command, which its history rows carry; empty for a query. */
  readonly runId: string
  /** Tells everyone who follows these topics, once the transaction is committed. */
  readonly changed: (...topics: readonly Topic[]) => void
  /** Says how far a large act is; throws when it was cancelled. Where nobody follows it, nothing happens. */
  readonly progress: (done: number, total: number) => Promise<void>
  /** Whether the actor has a right, for offering only what can be done. */
  readonly may: <I>(right: Right<I>, input: I) => Promise<boolean>
}

export interface RunOptions {
  readonly command: string
  readonly runId?: string
  /** The run that this one takes back. */
  readonly undoes?: string
  readonly tab?: string
  readonly progress?: Context['progress']
}

/**
 * Works in a transaction with the actor's school set. The setting goes out in front of the work's first statement,
 * not before it; what was changed is announced in one statement at the end.
 */
export async function inSchool<T>(
  db: Transaction<Tables>,
  actor: Actor,
  { command, runId = '', undoes = '', tab, progress = () => Promise.resolve() }: RunOptions,
  work: (context: Context) => Promise<T>,
): Promise<T> {
  const moment = now(actor.timeZone)
  const topics = new Set<Topic>()
  const set =
    sql`select set_config('kedge.school', ${actor.schoolId}, true), set_config('kedge.account', ${actor.accountId}, true),
    set_config('kedge.actor', ${actor.name}, true), set_config('kedge.command', ${command}, true),
    set_config('kedge.run', ${runId}, true), set_config('kedge.undoes', ${undoes}, true),
    set_config('kedge.now', ${clockIsSet() ? moment.toISOString() : ''}, true)`.execute(db)
  const context: Context = {
    db,
    actor,
    now: moment,
    today: today(actor.timeZone),
    runId,
    changed: (...more) => {
      for (const topic of more) topics.add(topic)
    },
    progress,
    may: (right, input) => mayDo(context, right, input),
  }
  const [, answer] = await Promise.all([set, work(context)])
  if (topics.size > 0) {
    const payloads = announcements(actor.schoolId, [...topics], tab)
    await sql`select pg_notify('kedge', payload) from unnest(${payloads}::text[]) as payload`.execute(db)
  }
  return answer
}
