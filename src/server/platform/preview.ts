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
  /** The first of them. */
  readonly changes: readonly DescribedChange[]
}

/** Changes that a preview shows one by one; all are counted. */
const shown = 200

/** Puts history rows into words; identifiers in them are looked up while the rows are there. */
export type Describe = (context: Context, rows: readonly HistoryRow[]) => Promise<readonly DescribedChange[]>

/** What a preview showed, sent along with the act, and how changes are put into words. */
export interface Expecting {
  readonly fingerprint: string
  readonly describe: Describe
}

const moment = /^\d{4}-\d\d-\d\dT\d\d:\d\d/

/** Stands for all changes of a run, whatever order the rows of a statement come in. */
class Fingerprint {
  private readonly made = new Map<string, string>()
  private readonly sum = new Uint32Array(8)

  /** Adds rows without what differs between two runs on the same data: identifiers made in the run, and moments. */
  add(rows: readonly HistoryRow[]): void {
    for (const { operation, rowKey } of rows)
      if (operation === 'insert' && typeof rowKey.id === 'string' && !this.made.has(rowKey.id))
        this.made.set(rowKey.id, `new ${this.made.size}`)
    for (const row of rows) {
      const text = JSON.stringify(
        [row.tableName, row.operation, row.rowKey, row.before, row.after],
        (_key, value: unknown) => this.stable(value),
      )
      const hash = createHash('sha256').update(text).digest()
      // Each part of the sum wraps around by itself.
      for (let i = 0; i < 8; i++) this.sum[i] = (this.sum[i] ?? 0) + hash.readUInt32LE(4 * i)
    }
  }

  text(): string {
    return Buffer.from(this.sum.buffer).toString('base64url')
  }

  private stable(value: unknown): unknown {
    if (typeof value === 'string') return moment.test(value) ? 'moment' : (this.made.get(value) ?? value)
    if (value && typeof value === 'object' && !Array.isArray(value))
      return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    return value
  }
}

/** What the run has changed so far, in words. */
export async function previewOf(context: Context, describe: Describe): Promise<Preview> {
  const fingerprint = new Fingerprint()
  const changes: DescribedChange[] = []
  const counts = new Map<string, Preview['counts'][number]>()
  for await (const rows of changesOf(context, context.runId)) {
    fingerprint.add(rows)
    const described = await describe(context, rows)
    changes.push(...described.slice(0, shown - changes.length))
    for (const { kind, operation } of described) {
      const key = `${kind} ${operation}`
      counts.set(key, { kind, operation, rows: (counts.get(key)?.rows ?? 0) + 1 })
    }
  }
  return { fingerprint: fingerprint.text(), counts: [...counts.values()], changes }
}
