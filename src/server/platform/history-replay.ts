/* eslint-disable no-await-in-loop -- one statement for each table */
import { sql } from 'kysely'
import type { Context } from './context'

/** The tables with a history whose rows their keys name, each with its keys; those that have lines from one on. */
async function historyOf({ db }: Pick<Context, 'db'>, first: string) {
  const { rows } = await sql<{ table: string; keys: readonly string[] }>`
    select c.relname as "table", k.keys from pg_trigger t join pg_class c on c.oid = t.tgrelid
    cross join lateral (select array_agg(n order by n) as keys
      from unnest(string_to_array(trim(trailing ',' from replace(encode(t.tgargs, 'escape'), '\\000', ',')), ',')) n) k
    where t.tgname = 'keep_history_added' and exists (
      select 1 from pg_index i where i.indrelid = c.oid and i.indisunique and i.indpred is null and (
        select array_agg(a.attname::text order by a.attname) from pg_attribute a
        where a.attrelid = c.oid and a.attnum = any (i.indkey) and a.attname <> 'school_id') = k.keys)
      and c.relname in (select h.table_name from history h where h.id >= ${first})
    order by 1`.execute(db)
  return rows
}

/** The first line of the history in the last so many days; the very first without. */
async function firstLine({ db }: Pick<Context, 'db'>, days: number | undefined): Promise<string> {
  if (days === undefined) return '0'
  const { rows } = await sql<{ id: string | null }>`
    select min(id)::text as id from history where at > kedge_now() - make_interval(days => ${days})`.execute(
    db,
  )
  return rows[0]?.id ?? '9223372036854775807'
}

/**
 * Rows that are not as the history left them: they differ in a value, are there although they were removed, or are gone.
 * What was loaded without a history counts as it is.
 * @param most how many are named
 * @param days looks only at what was changed in the last so many days
 */
export async function notAsKept(
  context: Pick<Context, 'db'>,
  most: number,
  days?: number,
): Promise<readonly string[]> {
  const { db } = context
  const found: string[] = []
  const first = await firstLine(context, days)
  // How many rows a history has is not known beforehand; a loop within a loop would never end with many.
  await sql`set local enable_nestloop = off`.execute(db)
  for (const { table, keys } of await historyOf(context, first)) {
    if (found.length >= most) break
    const key = sql`jsonb_build_object(${sql.join(keys.flatMap((k) => [sql.lit(k), sql`to_jsonb(t) -> ${sql.lit(k)}`]))})`
    const { rows } = await sql<{ which: string }>`
      with kept as materialized (
          select id, row_key, operation, after from history where id >= ${first} and table_name = ${table}
          -- A row whose key was changed is gone under the one it had.
          union all select h.id, h.row_key || b.key, 'delete', null from history h
          cross join lateral (select jsonb_object_agg(k, h.before -> k) as key from unnest(${sql.val(keys)}::text[]) k where h.before ? k) b
          where h.id >= ${first} and h.table_name = ${table} and h.operation = 'update' and b.key is not null),
        last as (select distinct on (row_key) row_key, operation, id from kept order by row_key, id desc),
        -- Since it was last entered: before that, it was another row.
        entered as (select row_key, max(id) as id from kept where operation = 'insert' group by row_key),
        told as (select distinct on (k.row_key, e.key) k.row_key, e.key, e.value
          from kept k left join entered n using (row_key) cross join lateral jsonb_each(k.after) e
          where k.id >= coalesce(n.id, 0) and not e.key = any (kedge_unkept())
          order by k.row_key, e.key, k.id desc),
        present as (select ${key} as row_key, to_jsonb(t) as row from ${sql.table(table)} t)
      select ${table} || ' ' || x.row_key::text as which from (
        select l.row_key from last l left join present p using (row_key)
          where (l.operation = 'delete') = (p.row is not null)
        union select t.row_key from told t join last l using (row_key) join present p using (row_key)
          where l.operation <> 'delete' and p.row -> t.key is distinct from t.value) x
      order by 1 limit ${most - found.length}`.execute(db)
    found.push(...rows.map((row) => row.which))
  }
  await sql`set local enable_nestloop = on`.execute(db)
  return found
}
