/* eslint-disable no-await-in-loop -- one statement for each table */
import { sql } from 'kysely'
import { shortDate } from '@/core/calendar/date-words'
import { addDays } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import type { HistoryRow } from '@/server/platform/history-rows'
import type { DescribedChange } from '@/server/platform/preview'
import type { NameOf, TableWords } from '@/server/platform/words'
import { all } from './all'
import { mailWords } from './mail-words'

let known: Readonly<Record<string, TableWords>> | undefined

/** The words of all tables, put together once. */
const words = () =>
  (known ??= Object.assign({}, mailWords, ...all.map((domain) => domain.history)) as typeof known & {})

function periodWords(value: string): string | undefined {
  const parts = /^[[(](\d{4}-\d\d-\d\d)?,(\d{4}-\d\d-\d\d)?[)\]]$/.exec(value)
  if (!parts) return undefined
  const [, from, until] = parts
  return [
    from ? `from ${shortDate(from, true)}` : 'no start date',
    ...(until ? [`until ${shortDate(addDays(until, -1), true)}`] : []),
  ].join(', ')
}

function valueWords(value: unknown, nameOf: NameOf): string {
  if (value === null || value === undefined || value === '') return ''
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  const text = String(value)
  if (/^\d{4}-\d\d-\d\d$/.test(text)) return shortDate(text, true)
  return nameOf.get(text) ?? periodWords(text) ?? text
}

const acts = { insert: 'created', update: 'changed', delete: 'deleted' } as const

/** Puts a row of the history into words. Rows of tables without words of their own show the table's name. */
export function describeChange(
  row: Pick<HistoryRow, 'tableName' | 'operation' | 'rowKey' | 'before' | 'after'>,
  nameOf: NameOf,
): Pick<DescribedChange, 'kind' | 'which' | 'changes'> {
  const own = words()[row.tableName] ?? { kind: row.tableName, columns: {} }
  const values = { ...row.rowKey, ...row.before, ...row.after }
  const changes = Object.entries(own.columns)
    .map(([column, what]) => ({
      what,
      from: valueWords(row.before?.[column], nameOf),
      to: valueWords(row.after?.[column], nameOf),
    }))
    .filter((c) => c.from !== c.to)
  return {
    kind: own.kind,
    which: own.which?.(values, nameOf) ?? '',
    changes: changes.length > 0 ? changes : [{ what: acts[row.operation], from: '', to: '' }],
  }
}

const identifiers = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g

/** Names of all records that some rows point at, looked up at once, whatever table they are in. */
export async function namesIn({ db }: Context, rows: readonly object[]): Promise<NameOf> {
  const ids = [...new Set(JSON.stringify(rows).match(identifiers) ?? [])]
  if (ids.length === 0) return new Map()
  const selects = Object.entries(words()).flatMap(([table, { name }]) =>
    name
      ? [sql`select t.id, ${sql.raw(name)} as name from ${sql.table(table)} t join wanted using (id)`]
      : [],
  )
  const { rows: names } = await sql<{ id: string; name: string }>`
    with wanted as (select unnest(${ids}::uuid[]) as id) ${sql.join(selects, sql` union all `)}`.execute(db)
  return new Map(names.map((n) => [n.id, n.name]))
}

/** The rows of those tables that the actor may read about. */
export async function rowsInSight<R extends Pick<HistoryRow, 'tableName'>>(
  context: Context,
  rows: readonly R[],
): Promise<readonly R[]> {
  const hidden = new Set<string>()
  for (const table of new Set(rows.map((row) => row.tableName))) {
    const right = words()[table]?.right
    if (right && !(await context.may(right, {}))) hidden.add(table)
  }
  return rows.filter((row) => !hidden.has(row.tableName))
}

/** Puts everything a run changed into words, as far as the actor may read it. */
export async function describeRun(
  context: Context,
  rows: readonly HistoryRow[],
): Promise<readonly DescribedChange[]> {
  const seen = await rowsInSight(context, rows)
  const nameOf = await namesIn(context, seen)
  return seen.map((row) => {
    const studentId = row.tableName === 'student' ? row.rowKey.id : row.rowKey.student_id
    return {
      ...describeChange(row, nameOf),
      operation: row.operation,
      student: typeof studentId === 'string' ? (nameOf.get(studentId) ?? null) : null,
    }
  })
}
