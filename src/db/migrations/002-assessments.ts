import { readdir, readFile } from 'node:fs/promises'
import { sql, type Kysely } from 'kysely'

const folder = new URL('./002-assessments/', import.meta.url)

/**
 * Assessments on one model for all kinds of questions: keys with versions, attempts with responses, points by their
 * source, forms with documents, sittings with classes, levels as rows, standards as trees. What was there is moved
 * onto it.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const file of (await readdir(folder)).sort())
    await sql.raw(await readFile(new URL(file, folder), 'utf8')).execute(db)
}
