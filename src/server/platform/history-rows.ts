import type { Context } from './context'

/** One change of one row, as the history keeps it. Keys inside are columns of the database. */
export interface HistoryRow {
  readonly id: string
  readonly at: string
  readonly actor: string
  readonly tableName: string
  readonly operation: 'insert' | 'update' | 'delete'
  readonly rowKey: Readonly<Record<string, unknown>>
  readonly before: Readonly<Record<string, unknown>> | null
  readonly after: Readonly<Record<string, unknown>> | null
}

/** Everything one run of a command changed, in the order in which it happened. */
export function changesOf({ db }: Context, runId: string): Promise<readonly HistoryRow[]> {
  return db
    .selectFrom('history')
    .select(['id', 'at', 'actor', 'tableName', 'operation', 'rowKey', 'before', 'after'])
    .where('runId', '=', runId)
    .orderBy('id')
    .execute()
}
