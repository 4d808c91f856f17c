import { sql, type Expression } from 'kysely'
import { camelKeys } from '@/db/names'
import type { Context } from './context'

/** What comes through JSON as it is. A moment would not: it is asked for by itself, or as a text. */
type Plain = string | number | boolean | null

interface Waiting {
  readonly select: Expression<unknown>
  readonly answer: (rows: readonly Readonly<Record<string, Plain>>[]) => void
  readonly fail: (error: unknown) => void
}

const waiting = new WeakMap<Context['db'], Waiting[]>()

/**
 * Rows of a small select, asked in one statement with everything else that parts of a page gather at that moment: a
 * dozen parts look for what is due, each with a statement of a line or two. In a command, where one thing is done after
 * the other, it is asked by itself.
 * @param select whose columns are texts, dates, counts or yes and no
 */
export function gather<R extends { readonly [K in keyof R]: Plain }>(
  { db, runId }: Context,
  select: Expression<R>,
): Promise<readonly R[]> {
  return new Promise((resolve, reject) => {
    const one: Waiting = {
      select,
      answer: (rows) => resolve(rows.map(camelKeys) as unknown as readonly R[]),
      fail: reject,
    }
    if (runId !== '') return void askAll(db, [one])
    const others = waiting.get(db)
    if (others) return void others.push(one)
    const all = [one]
    waiting.set(db, all)
    setImmediate(() => {
      waiting.delete(db)
      void askAll(db, all)
    })
  })
}

async function askAll(db: Context['db'], all: readonly Waiting[]): Promise<void> {
  try {
    const lists = all.map(
      ({ select }, i) => sql`(select json_agg(r) from (${select}) r) as ${sql.ref(`l${i}`)}`,
    )
    const { rows } = await sql<Record<string, Record<string, Plain>[] | null>>`
      select ${sql.join(lists)}`.execute(db)
    all.forEach(({ answer }, i) => answer(rows[0]?.[`l${i}`] ?? []))
  } catch (error) {
    for (const { fail } of all) fail(error)
  }
}
