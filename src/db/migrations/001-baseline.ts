import { readdir, readFile } from 'node:fs/promises'
import { sql, type Kysely } from 'kysely'

const folder = new URL('./001-baseline/', import.meta.url)

/** The tables of the first release, in the order in which they build on each other. */
export async function up(db: Kysely<unknown>): Promise<void> {
  // A function may speak of tables that come later.
  await sql`set local check_function_bodies = off`.execute(db)
  for (const file of (await readdir(folder)).sort())
    await sql.raw(await readFile(new URL(file, folder), 'utf8')).execute(db)
}
