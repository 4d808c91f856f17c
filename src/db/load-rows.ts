import { sql, type Kysely, type Transaction } from 'kysely'
import { snakeCase } from './names'

/**
 * Inserts many rows with one statement for each five thousand: the rows travel as one JSON value and PostgreSQL gives
 * each field its column's type.
 * @param table name, with its schema where it is not public; every row has the same fields
 * @param rows fields named like columns, in camelCase or snake_case; those of the sign-in package's tables exactly
 */
export async function loadRows<T>(
  db: Kysely<T> | Transaction<T>,
  table: string,
  rows: readonly object[],
): Promise<void> {
  const first = rows[0]
  if (!first) return
  const plain = db.withoutPlugins()
  const named = table.startsWith('auth.')
    ? rows
    : rows.map((row) =>
        Object.fromEntries(Object.entries(row).map(([key, value]) => [snakeCase(key), value])),
      )
  const columns = sql.join(Object.keys(named[0] ?? {}).map((c) => sql.ref(c)))
  for (let from = 0; from < named.length; from += 5000) {
    const part = JSON.stringify(named.slice(from, from + 5000))
    await sql`insert into ${sql.table(table)} (${columns}) select ${columns} from jsonb_populate_recordset(null::${sql.table(table)}, ${part}::jsonb)`.execute(
      plain,
    )
  }
}
