import { readdir } from 'node:fs/promises'
import { runMigrations } from 'graphile-worker'
import { Kysely, Migrator, PostgresDialect, type Migration } from 'kysely'
import pg from 'pg'

const folder = new URL('./migrations/', import.meta.url)

/** Every migration in the folder by its name, which is kept in the database: never rename one that has run. */
async function allMigrations(): Promise<Record<string, Migration>> {
  const files = (await readdir(folder)).filter((name) => /^\d{3}-.*\.ts$/.test(name)).sort()
  return Object.fromEntries(
    await Promise.all(
      files.map(async (file): Promise<[string, Migration]> => [
        file.replace(/\.ts$/, ''),
        (await import(new URL(file, folder).href)) as Migration,
      ]),
    ),
  )
}

/**
 * Brings a database to the newest migration, the queue's own tables first.
 * @param ownerUrl connection of the role that owns the tables
 * @returns the names of the migrations that ran now
 * @throws the first migration's error; what ran before it stays
 */
export async function migrate(ownerUrl: string): Promise<readonly string[]> {
  await runMigrations({ connectionString: ownerUrl })
  const pool = new pg.Pool({ connectionString: ownerUrl, max: 1 })
  const db = new Kysely<unknown>({ dialect: new PostgresDialect({ pool }) })
  try {
    const migrator = new Migrator({ db, provider: { getMigrations: allMigrations } })
    const { error, results } = await migrator.migrateToLatest()
    if (error instanceof Error && /previously executed migration .* is missing/.test(error.message))
      throw new Error(
        'This database was made by Kedge before its first release, and its tables cannot be carried on. Nothing was changed. Use a new database.',
        { cause: error },
      )
    if (error) throw error
    return (results ?? []).map((r) => r.migrationName)
  } finally {
    await db.destroy()
  }
}
