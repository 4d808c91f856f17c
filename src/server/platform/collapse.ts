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
  /** The only step, where there was one: all of this stands there. */
  readonly step: string | undefined
}

/** Keys come from the database, which has their columns in one order. */
const textOf = (table: string, key: Values) => `${table} ${JSON.stringify(key)}`

/** The key that a row had before a step. */
function keyBefore(rowKey: Values, before: Values | null): Values {
  if (!before) return rowKey
  const changed = Object.keys(rowKey).filter((column) => column in before)
  return changed.length === 0
    ? rowKey
    : { ...rowKey, ...Object.fromEntries(changed.map((column) => [column, before[column]])) }
}

/** Joins the steps of a run into one change for each row. Rows that were created and deleted again are left out. */
export class Collapse {
  private readonly changes = new Map<string, NetChange>()

  /** Adds steps behind those that were added before. */
  add(rows: readonly HistoryRow[]): void {
    for (const row of rows) this.step(row)
  }

  /** What all steps together did. */
  net(): readonly NetChange[] {
    return [...this.changes.values()]
  }

  private step({ id, tableName: table, operation, rowKey, before, after }: HistoryRow): void {
    // A change of a key column is recorded under the new key.
    const was = textOf(table, keyBefore(rowKey, before))
    const earlier = this.changes.get(was)
    if (earlier) this.changes.delete(was)
    const key = textOf(table, rowKey)
    const step = earlier ? undefined : id
    if (operation === 'insert') {
      // Deleted earlier in the run: in the end it was updated.
      this.changes.set(key, {
        table,
        act: earlier ? 'updated' : 'created',
        key: rowKey,
        before: earlier?.before ?? {},
        after: after ?? {},
        step,
      })
    } else if (operation === 'update') {
      this.changes.set(key, {
        table,
        act: earlier?.act ?? 'updated',
        key: rowKey,
        before: earlier?.act === 'created' ? {} : { ...before, ...earlier?.before },
        after: { ...earlier?.after, ...after },
        step,
      })
    } else if (earlier?.act !== 'created')
      this.changes.set(key, {
        table,
        act: 'deleted',
        key: rowKey,
        before: { ...before, ...earlier?.before },
        after: {},
        step,
      })
  }
}
