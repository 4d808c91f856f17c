/* eslint-disable no-await-in-loop -- parts of a long history, one after the other */
import type { Context } from './context'

/** One change of one row, as the history keeps it. Keys inside are columns of the database. */
export interface HistoryRow {
  readonly id: string
  readonly tableName: string
  readonly operation: 'insert' | 'update' | 'delete'
  readonly rowKey: Readonly<Record<string, unknown>>
  readonly before: Readonly<Record<string, unknown>> | null
  readonly after: Readonly<Record<string, unknown>> | null
}

/** Rows that are held in memory at once. */
const page = 5000

/** Everything one run of a command changed, in the order in which it happened, page by page. */
export async function* changesOf({ db }: Context, runId: string): AsyncGenerator<readonly HistoryRow[]> {
  const ofRun = db
    .selectFrom('history')
    .select(['id', 'tableName', 'operation', 'rowKey', 'before', 'after'])
    .where('runId', '=', runId)
    .orderBy('id')
    .limit(page)
  for (let last: string | undefined = '0'; last !== undefined;) {
    const rows: readonly HistoryRow[] = await ofRun.where('id', '>', last).execute()
    if (rows.length > 0) yield rows
    last = rows.length === page ? rows.at(-1)?.id : undefined
  }
}

/** How many rows a run changed, each step counted. */
export async function rowsOf({ db }: Context, runId: string): Promise<number> {
  const counted = await db
    .selectFrom('history')
    .select((eb) => eb.fn.countAll<string>().as('rows'))
    .where('runId', '=', runId)
    .executeTakeFirstOrThrow()
  return Number(counted.rows)
}
