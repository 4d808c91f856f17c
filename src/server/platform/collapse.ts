import type { HistoryRow } from './history-rows'

type Values = Readonly<Record<string, unknown>>

/** What a run did to one row in the end, however many steps it took. */
export interface NetChange {
  readonly table: string
  readonly act: 'created' | 'updated' | 'deleted'
  /** The row's key as the run left it; of a deleted row, its last. */
  readonly key: Values
  /** Columns as they were before the run; all of them for a deleted row, none for a created one. */
  readonly before: Values
  /** Columns as the run left them. */
  readonly after: Values
}

const textOf = (table: string, key: Values) =>
  `${table} ${JSON.stringify(Object.entries(key).sort(([a], [b]) => (a < b ? -1 : 1)))}`

const only = (values: Values | null, keys: Values): Values =>
  Object.fromEntries(Object.entries(values ?? {}).filter(([column]) => column in keys))

/** Joins the steps of a run into one change for each row. Rows that were created and deleted again are left out. */
export function collapse(rows: readonly HistoryRow[]): readonly NetChange[] {
  const net = new Map<string, NetChange>()
  for (const { tableName: table, operation, rowKey, before, after } of rows) {
    // A change of a key column is recorded under the new key.
    const was = textOf(table, { ...rowKey, ...only(before, rowKey) })
    const earlier = net.get(was)
    net.delete(was)
    const key = textOf(table, rowKey)
    if (operation === 'insert') {
      // Deleted earlier in the run: in the end it was updated.
      net.set(key, {
        table,
        act: earlier ? 'updated' : 'created',
        key: rowKey,
        before: earlier?.before ?? {},
        after: after ?? {},
      })
    } else if (operation === 'update') {
      net.set(key, {
        table,
        act: earlier?.act ?? 'updated',
        key: rowKey,
        before: earlier?.act === 'created' ? {} : { ...before, ...earlier?.before },
        after: { ...earlier?.after, ...after },
      })
    } else if (earlier?.act !== 'created')
      net.set(key, {
        table,
        act: 'deleted',
        key: rowKey,
        before: { ...before, ...earlier?.before },
        after: {},
      })
  }
  return [...net.values()]
}
