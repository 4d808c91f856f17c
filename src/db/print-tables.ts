import { sql, type Kysely } from 'kysely'
import { camelCase } from './names'

interface Column {
  readonly schema: string
  readonly table: string
  readonly column: string
  readonly type: string
  readonly nullable: boolean
  readonly generated: boolean
  /** Drawn from other columns by the database. */
  readonly drawn: boolean
  readonly values: string | null
}

/** The texts a column may hold, read from its check constraint `column = ANY (ARRAY['a'::text, …])`. */
const unionOf = (definition: string): string =>
  [...definition.matchAll(/'([^']*)'::text/g)].map(([, value]) => `'${value}'`).join(' | ')

/** What the driver answers for a type, as `connect` sets it up. */
const plainTypes: Readonly<Record<string, string>> = {
  bool: 'boolean',
  bytea: 'Buffer',
  date: 'CivilDate',
  daterange: 'Period',
  int2: 'number',
  int4: 'number',
  numeric: 'Decimal',
  _int2: 'number[]',
  _text: 'string[]',
}

/** JSON columns are typed by hand: what they hold is decided by the code that writes them. */
const json: Readonly<Record<string, string>> = {
  'history.row_key': 'Record<string, string>',
  'history.before': 'Record<string, unknown> | null',
  'history.after': 'Record<string, unknown> | null',
  'job.finished': 'readonly string[] | null',
}

function typeOf(c: Column): string {
  const generated = (type: string) =>
    c.drawn ? `GeneratedAlways<${type}>` : c.generated ? `Generated<${type}>` : type
  if (c.type === 'timestamptz') return `Moment<${c.nullable ? 'string | null' : 'string'}>`
  if (c.type === 'jsonb') return `Json<${json[`${c.table}.${c.column}`] ?? 'unknown'}>`
  const type = c.values ? unionOf(c.values) : (plainTypes[c.type] ?? 'string')
  return generated(c.nullable ? `${type} | null` : type)
}

const head = `// Printed from the migrated database by \`npm run kedge -- tables\`; a test compares the two. Do not edit by hand.
import type { ColumnType, Generated, GeneratedAlways } from 'kysely'

/** A civil date, YYYY-MM-DD. */
type CivilDate = string
/** A half-open period of civil dates in PostgreSQL's text form, \`[from,to)\`. */
type Period = string
/** An exact decimal as text. */
type Decimal = string
/** ISO 8601 in UTC when read. */
type Moment<T> = ColumnType<T, Date | string | null | undefined, Date | string | null>
/** JSON, written as text. */
type Json<T> = ColumnType<T, string | undefined, string>
`

/** The types of all tables and views as TypeScript, read from the catalogue of a migrated database. */
export async function printTables(db: Kysely<unknown>): Promise<string> {
  const { rows } = await sql<Column>`
    select n.nspname as schema, c.relname as table, a.attname as column, t.typname as type,
      (not a.attnotnull and c.relkind = 'r') as nullable, (a.atthasdef or a.attidentity <> '') as generated, a.attgenerated <> '' as drawn,
      (select pg_get_constraintdef(k.oid) from pg_constraint k
        where k.conrelid = c.oid and k.contype = 'c' and k.conkey = array[a.attnum]
          and pg_get_constraintdef(k.oid) ~ '= ANY \\(ARRAY\\[') as values
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped
    join pg_type t on t.oid = a.atttypid
    where n.nspname in ('public', 'auth', 'stand_in') and c.relkind in ('r', 'v') and c.relname not like 'kysely%'
    order by n.nspname <> 'public', n.nspname, c.relname, a.attnum`.execute(db)
  const tables = new Map<string, Column[]>()
  for (const row of rows) {
    const name =
      row.schema === 'public'
        ? camelCase(row.table)
        : `${row.schema === 'auth' ? 'auth' : camelCase(row.schema)}.${row.schema === 'auth' ? row.table : camelCase(row.table)}`
    tables.set(name, [...(tables.get(name) ?? []), row])
  }
  const printed = [...tables].map(([name, columns]) => {
    const lines = columns.map(
      (c) => `    ${c.schema === 'auth' ? c.column : camelCase(c.column)}: ${typeOf(c)}`,
    )
    return `  ${name.includes('.') ? `'${name}'` : name}: {\n${lines.join('\n')}\n  }`
  })
  return `${head}\nexport interface Tables {\n${printed.join('\n')}\n}\n`
}
