import { sql, type Transaction } from 'kysely'
import type { Tables } from '@/db/tables'

interface ForeignKey {
  readonly child: string
  readonly childColumns: readonly string[]
  readonly parent: string
  readonly parentColumns: readonly string[]
}

/** What the database says about its own tables; names as in the database. */
export interface Catalog {
  readonly columns: ReadonlyMap<string, readonly string[]>
  readonly foreignKeys: readonly ForeignKey[]
  /** Tables so that each stands after all it refers to. */
  readonly parentsFirst: readonly string[]
}

let known: Promise<Catalog> | undefined

/** The catalog of the application's tables, read once in the life of a process. */
export function catalog(db: Transaction<Tables>): Promise<Catalog> {
  known ??= read(db).catch((error: unknown) => {
    known = undefined
    throw error
  })
  return known
}

async function read(db: Transaction<Tables>): Promise<Catalog> {
  const { rows } = await sql<{ columns: Record<string, string[]>; foreignKeys: ForeignKey[] }>`
    select
      (select jsonb_object_agg(relname, names) from (
        select c.relname, jsonb_agg(a.attname order by a.attnum) as names
        from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
        where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' group by c.relname) x) as columns,
      (select jsonb_agg(jsonb_build_object(
        'child', k.conrelid::regclass::text, 'parent', k.confrelid::regclass::text,
        'childColumns', (select jsonb_agg(a.attname order by x.n) from unnest(k.conkey) with ordinality x(att, n)
          join pg_attribute a on a.attrelid = k.conrelid and a.attnum = x.att),
        'parentColumns', (select jsonb_agg(a.attname order by x.n) from unnest(k.confkey) with ordinality x(att, n)
          join pg_attribute a on a.attrelid = k.confrelid and a.attnum = x.att)))
        from pg_constraint k where k.contype = 'f' and k.connamespace = 'public'::regnamespace
          and k.confrelid <> k.conrelid and k.confrelid::regclass::text not like 'auth.%') as "foreignKeys"`.execute(
    db,
  )
  const found = rows[0]
  if (!found) throw new Error('the catalog answers one row')
  const columns = new Map(Object.entries(found.columns))
  return {
    columns,
    foreignKeys: found.foreignKeys,
    parentsFirst: inOrder([...columns.keys()], found.foreignKeys),
  }
}

function inOrder(tables: readonly string[], keys: readonly ForeignKey[]): readonly string[] {
  const order: string[] = []
  const done = new Set<string>()
  const add = (table: string) => {
    if (done.has(table)) return
    done.add(table)
    for (const key of keys) if (key.child === table) add(key.parent)
    order.push(table)
  }
  for (const table of tables) add(table)
  return order
}
