import { sameValue } from '@/core/same'
import { snakeCase } from '@/db/names'
import { sql, type RawBuilder } from 'kysely'
import { limits } from '@/core/limits'
import { z } from 'zod'
import type { Tables } from '@/db/tables'
import type { Context } from './context'
import { defineCommand, type Command } from './entry'
import { changedMeanwhile, conflict, type Json, type Standing } from './failure'
import { expectedVersion } from '@/core/inputs'
import type { Right } from './rights'
import type { Topic } from './topic'

/** What was saved of a cell: its key, and the version the next edit of it starts from. */
export interface Written<K> {
  readonly key: K
  readonly version: number
}

export interface Cell<K, V> {
  readonly key: K
  readonly value: V
  /** The version the person saw; 0 where there was nothing. */
  readonly expectedVersion: number
}

type Columns = Readonly<Record<string, unknown>>

/** The tables whose rows have a version. */
type Versioned = { [T in keyof Tables]: 'version' extends keyof Tables[T] ? T : never }[keyof Tables] & string

interface WriteRule<S, K, V> {
  readonly table: keyof Tables & string
  /** What all cells of one write have in common. */
  readonly scope: z.ZodType<S>
  readonly key: z.ZodType<K>
  readonly value: z.ZodType<V>
  readonly right: Right<S>
  /** The columns that identify a cell's row, beside the school. */
  readonly keyColumns: (scope: S, key: K) => Columns
  readonly columns: (value: V, scope: S) => Columns
  readonly keyOf: (row: Columns) => K
  readonly valueOf: (row: Columns) => V
  /** Refuses what the school's rules forbid; runs first, and may lock what it rests on. */
  readonly check?: (context: Context, scope: S, cells: readonly Cell<K, V>[]) => Promise<void>
  /** What else is saved with the cells, once none of them is in conflict. */
  readonly after?: (context: Context, scope: S, cells: readonly Cell<K, V>[]) => Promise<void>
  /** What is saved, where one row of the table does not say it all. */
  readonly load?: (context: Context, scope: S, keys: readonly K[]) => Promise<readonly Standing<K, V>[]>
  readonly topics: (context: Context, scope: S) => readonly Topic[] | Promise<readonly Topic[]>
  /** What is in the way, in words: "this mark". */
  readonly what: string
}

const columnNames = (names: readonly string[]) => sql.join(names.map((name) => sql.ref(name)))

/**
 * Declares the one kind of change that is saved as it is typed: cells with a version each. It takes
 * `{ …scope, cells: { key, value, expectedVersion }[] }` and answers `{ key, version }[]`, all or none. A cell that someone
 * else has changed to something else since stops the whole, and the conflict carries what is saved.
 */
export function defineWrite<S extends object, K extends Json, V extends Json>(
  rule: WriteRule<S, K, V>,
): Command<
  S & { cells: readonly Cell<K, V>[] },
  readonly Written<K>[],
  S & { cells: readonly Cell<K, V>[] }
> {
  const cells = z
    .array(z.object({ key: rule.key, value: rule.value, expectedVersion }))
    .min(1, 'There is nothing to save.')
    .max(limits.cells, 'Save at most 4,000 values at once.')
  const input = z.intersection(rule.scope, z.object({ cells }))
  return defineCommand({
    input: input as unknown as z.ZodType<
      S & { cells: readonly Cell<K, V>[] },
      S & { cells: readonly Cell<K, V>[] }
    >,
    right: rule.right,
    run: async (context, asked) => {
      const unique = withoutRepeats(asked.cells)
      await rule.check?.(context, asked, unique)
      const written = await writeRows(context, rule, asked, unique)
      const saved = new Set(written.map((w) => JSON.stringify(w.key)))
      const missed = unique.filter((cell) => !saved.has(JSON.stringify(cell.key)))
      const unchanged = missed.length > 0 ? await sameAnyway(context, rule, asked, missed) : []
      await rule.after?.(context, asked, unique)
      context.changed(...(await rule.topics(context, asked)))
      return [...written, ...unchanged]
    },
  })
}

/** The last word on each cell, where an input names one twice. */
const withoutRepeats = <K, V>(cells: readonly Cell<K, V>[]): readonly Cell<K, V>[] => [
  ...new Map(cells.map((cell) => [JSON.stringify(cell.key), cell])).values(),
]

async function writeRows<S, K, V>(
  { db, actor, now }: Context,
  rule: WriteRule<S, K, V>,
  scope: S,
  cells: readonly Cell<K, V>[],
): Promise<readonly Written<K>[]> {
  const rows = cells.map((cell) => ({
    expectedVersion: cell.expectedVersion,
    key: rule.keyColumns(scope, cell.key),
    row: rule.columns(cell.value, scope),
  }))
  const keys = Object.keys(rows[0]?.key ?? {})
  const values = Object.keys(rows[0]?.row ?? {})
  const all = [...keys, ...values]
  const text = JSON.stringify(
    rows.map(({ expectedVersion: version, key, row }) => ({
      expectedVersion: version,
      row: snakeKeys({ ...key, ...row }),
    })),
  )
  const ofRow = (names: readonly string[]) => sql.join(names.map((name) => sql`(a.r).${sql.ref(name)}`))
  const table = sql.table(rule.table)
  const { rows: written } = await sql<Columns & { version: number }>`
    with asked as (
      select (x ->> 'expectedVersion')::int as expected_version, jsonb_populate_record(null::${table}, x -> 'row') as r
      from jsonb_array_elements(${text}::jsonb) as x
    ), inserted as (
      insert into ${table} as t (school_id, ${columnNames(all)}, changed_by, changed_at)
      select ${actor.schoolId}, ${ofRow(all)}, ${actor.name}, ${now} from asked a where a.expected_version = 0
      on conflict do nothing returning ${columnsOf('t', [...keys, 'version'])}
    ), updated as (
      update ${table} t set ${sql.join(values.map((name) => sql`${sql.ref(name)} = (a.r).${sql.ref(name)}`))},
        changed_by = ${actor.name}, changed_at = ${now}
      from asked a where a.expected_version > 0 and t.school_id = ${actor.schoolId} and t.version = a.expected_version and ${onKeys(keys)}
      returning ${columnsOf('t', [...keys, 'version'])}
    )
    select * from inserted union all select * from updated`.execute(db)
  return written.map((row) => ({ key: rule.keyOf(row), version: row.version }))
}

const columnsOf = (table: string, names: readonly string[]) =>
  sql.join(names.map((name) => sql.ref(`${table}.${name}`)))
const onKeys = (keys: readonly string[]) =>
  sql.join(
    keys.map((key) => sql`t.${sql.ref(key)} = (a.r).${sql.ref(key)}`),
    sql` and `,
  )
const snakeKeys = (row: Columns) =>
  Object.fromEntries(Object.entries(row).map(([name, value]) => [snakeCase(name), value]))

/**
 * Cells that were not as expected: those that hold what was asked anyway are as good as saved; any other is a
 * conflict.
 */
async function sameAnyway<S, K, V>(
  context: Context,
  rule: WriteRule<S, K, V>,
  scope: S,
  cells: readonly Cell<K, V>[],
): Promise<readonly Written<K>[]> {
  const keys = cells.map((cell) => cell.key)
  const saved = await (rule.load ?? loadRows(rule))(context, scope, keys)
  const at = new Map(saved.map((s) => [JSON.stringify(s.key), s]))
  const standing = cells.map(
    (cell): Standing<K, V> =>
      at.get(JSON.stringify(cell.key)) ?? { key: cell.key, value: null, version: 0, by: '' },
  )
  const against = standing.filter((s, i) => s.version === 0 || !sameValue(s.value, cells[i]?.value))
  if (against.length > 0) {
    const what = against.length === 1 ? rule.what : `${against.length} of these values`
    throw changedMeanwhile(what, against)
  }
  return standing.map((s) => ({ key: s.key, version: s.version }))
}

/** Reads what is saved in the rows of some cells. */
const loadRows =
  <S, K, V>(rule: WriteRule<S, K, V>) =>
  async ({ db }: Context, scope: S, keys: readonly K[]): Promise<readonly Standing<K, V>[]> => {
    const wanted = keys.map((key) => rule.keyColumns(scope, key))
    const names = Object.keys(wanted[0] ?? {})
    const table: RawBuilder<unknown> = sql.table(rule.table)
    const { rows } = await sql<Columns & { version: number; changedBy: string }>`
      select t.* from jsonb_populate_recordset(null::${table}, ${JSON.stringify(wanted.map(snakeKeys))}::jsonb) r
      join ${table} t on ${sql.join(
        names.map((name) => sql`t.${sql.ref(name)} = r.${sql.ref(name)}`),
        sql` and `,
      )}`.execute(db)
    return rows.map((row) => ({
      key: rule.keyOf(row),
      value: rule.valueOf(row),
      version: row.version,
      by: row.changedBy,
    }))
  }

/**
 * Changes one record that a person has open, where it still has the version they saw.
 * @param saved what the conflict shows, read only then; without it the conflict says only that there is one
 * @returns the new version
 */
export async function updateIfUnchanged(
  context: Context,
  table: Versioned,
  key: Columns,
  version: number,
  columns: Columns,
  { what, saved }: { what: string; saved?: () => Promise<{ value: Json; by?: string }> },
): Promise<number> {
  const where = Object.entries(key).map(([name, value]) => sql`${sql.ref(name)} = ${value}`)
  const sets = Object.entries(columns).map(([name, value]) => sql`${sql.ref(name)} = ${value}`)
  const { rows } = await sql<{ version: number }>`
    update ${sql.table(table)} set ${sets.length > 0 ? sql.join(sets) : sql`version = version`}
    where ${sql.join(where, sql` and `)} and version = ${version} returning version`.execute(context.db)
  if (rows[0]) return rows[0].version
  const { rows: now } = await sql<{ version: number }>`
    select version from ${sql.table(table)} where ${sql.join(where, sql` and `)}`.execute(context.db)
  const { value = null, by = '' } = (await saved?.()) ?? {}
  throw conflict(
    `${by || 'Someone else'} changed ${what} while you had it open. Nothing was overwritten. Open it again to see their version.`,
    [{ key: null, value, version: now[0]?.version ?? 0, by }],
  )
}

/** Draws the next version of a record that a person has open, where it still has the one they saw; the rest is for others to write. */
export const checkUnchanged = (
  context: Context,
  table: Versioned,
  key: Columns,
  version: number,
  what: string,
): Promise<number> => updateIfUnchanged(context, table, key, version, {}, { what })
