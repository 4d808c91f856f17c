import { sql, type Transaction } from 'kysely'
import type { Tables } from '@/db/tables'
import { inTransaction, type TransactionSettings } from '@/db/transaction'
import type { Actor } from './actor'
import { clockIsSet, now, today } from './clock'
import type { Context, RunOptions } from './context'
import { database } from './database'
import { announcements } from './live'
import { mayDo } from './rights'
import type { Topic } from './topic'
import { whileOpen } from './while-open'

/**
 * Works in a transaction with the actor's school set. The setting goes out in front of the work's first statement,
 * not before it; what was changed is announced in one statement at the end.
 */
export async function inSchool<T>(
  transaction: Transaction<Tables>,
  actor: Actor,
  { command, runId = '', undoes = '', tab, progress = () => Promise.resolve() }: RunOptions,
  work: (context: Context) => Promise<T>,
): Promise<T> {
  const { plugin, end } = whileOpen()
  const db = transaction.withPlugin(plugin)
  const moment = now(actor.timeZone)
  const topics = new Set<Topic>()
  const last: (() => Promise<unknown> | undefined)[] = []
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
    lastly: (...writes) => void last.push(...writes),
    may: (right, input) => mayDo(context, right, input),
  }
  try {
    const [, answer] = await Promise.all([set, work(context)])
    const announce = () => {
      const payloads = announcements(actor.schoolId, [...topics], tab)
      return sql`select pg_notify('kedge', payload) from unnest(${payloads}::text[]) as payload`.execute(db)
    }
    await Promise.all([...last.map((write) => write()), topics.size > 0 ? announce() : undefined])
    return answer
  } finally {
    end()
  }
}

/** Opens a transaction and works in it with the actor's school set. */
export const actInSchool = <T>(
  actor: Actor,
  options: RunOptions,
  work: (context: Context) => Promise<T>,
  settings: TransactionSettings = {},
): Promise<T> => inTransaction(database(), settings, (db) => inSchool(db, actor, options, work))
