import { sql, type Kysely, type Transaction } from 'kysely'

/**
 * Inserts many rows with one statement for each thousand: the rows travel as one JSON value and PostgreSQL gives
 * each field its column's type.
 * @param table name, with its schema where it is not public; every row has the same fields
 */
export async function loadRows<T>(
  db: Kysely<T> | Transaction<T>,
  table: string,
  rows: readonly object[],
): Promise<void> {
  const first = rows[0]
  if (!first) return
  const columns = sql.join(Object.keys(first).map((c) => sql.ref(c)))
  for (let from = 0; from < rows.length; from += 5000) {
    const part = JSON.stringify(rows.slice(from, from + 5000))
    await sql`insert into ${sql.table(table)} (${columns}) select ${columns} from jsonb_populate_recordset(null::${sql.table(table)}, ${part}::jsonb)`.execute(
      db,
    )
  }
}
