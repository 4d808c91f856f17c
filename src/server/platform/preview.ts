import { createHash } from 'node:crypto'
import type { Context } from './context'
import { changesOf, type HistoryRow } from './history-rows'

/** One changed row in words: which record, and which fields from what to what. */
export interface DescribedChange {
  readonly kind: string
  readonly which: string
  /** Whose record it is, where it is a student's. */
  readonly student: string | null
  readonly operation: HistoryRow['operation']
  readonly changes: readonly { readonly what: string; readonly from: string; readonly to: string }[]
}

/** What an act would change, before it is done. */
export interface Preview {
  /** Stands for exactly these changes; sent along with the act. */
  readonly fingerprint: string
  readonly counts: readonly {
    readonly kind: string
    readonly operation: HistoryRow['operation']
    readonly rows: number
  }[]
  readonly changes: readonly DescribedChange[]
}

/** Puts history rows into words; identifiers in them are looked up while the rows are there. */
export type Describe = (context: Context, rows: readonly HistoryRow[]) => Promise<readonly DescribedChange[]>

const moment = /^\d{4}-\d\d-\d\dT\d\d:\d\d/

/** The rows without what differs between two runs on the same data: identifiers made in the run, and moments. */
function fingerprintOf(rows: readonly HistoryRow[]): string {
  const made = new Map<string, string>()
  for (const { operation, rowKey } of rows)
    if (operation === 'insert' && typeof rowKey.id === 'string' && !made.has(rowKey.id))
      made.set(rowKey.id, `new ${made.size}`)
  const stable = (_key: string, value: unknown): unknown => {
    if (typeof value === 'string') return moment.test(value) ? 'moment' : (made.get(value) ?? value)
    if (value && typeof value === 'object' && !Array.isArray(value))
      return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    return value
  }
  const texts = rows.map((row) =>
    JSON.stringify([row.tableName, row.operation, row.rowKey, row.before, row.after], stable),
  )
  // Rows written by one statement come in any order.
  return createHash('sha256').update(texts.sort().join('\n')).digest('base64url')
}

/** What the run has changed so far, in words. */
export async function previewOf(context: Context, describe: Describe): Promise<Preview> {
  const rows = await changesOf(context, context.runId)
  const changes = await describe(context, rows)
  const counts = new Map<string, Preview['counts'][number]>()
  for (const { kind, operation } of changes) {
    const key = `${kind} ${operation}`
    counts.set(key, { kind, operation, rows: (counts.get(key)?.rows ?? 0) + 1 })
  }
  return { fingerprint: fingerprintOf(rows), counts: [...counts.values()], changes }
}
