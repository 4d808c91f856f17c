import { readdir, readFile } from 'node:fs/promises'
import { sql, type Kysely } from 'kysely'

const folder = new URL('./003-marks/', import.meta.url)

/** Gradebooks as schools keep them: points or weights, late and incomplete work, extra credit, a highest mark. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const file of (await readdir(folder)).sort())
    await sql.raw(await readFile(new URL(file, folder), 'utf8')).execute(db)
}
