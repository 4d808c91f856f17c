import { runMigrations } from 'graphile-worker'
import { Kysely, Migrator, PostgresDialect, sql, type Migration } from 'kysely'
import pg from 'pg'
import { knownMigrations } from './known-migrations'

const folder = new URL('./migrations/', import.meta.url)

/** Every migration by its name. */
async function allMigrations(): Promise<Record<string, Migration>> {
  return Object.fromEntries(
    await Promise.all(
      knownMigrations.map(async (name): Promise<[string, Migration]> => [
        name,
        (await import(new URL(`${name}.ts`, folder).href)) as Migration,
      ]),
    ),
  )
}

/** Why a database that has migrations this version does not know cannot be brought further. */
async function unknownMigrations(db: Kysely<unknown>): Promise<string> {
  const { rows } = await sql<{ name: string }>`select name from kysely_migration order by name`.execute(db)
  const names = rows.map((row) => row.name)
  const [first] = knownMigrations
  return first !== undefined && names.includes(first)
    ? `This database was made by a newer Kedge: it has ${names.filter((n) => !knownMigrations.includes(n)).join(', ')}. Nothing was changed. Bring that version of Kedge.`
    : 'This database was made by Kedge before its first release, and its tables cannot be carried on. Nothing was changed. Use a new database.'
}

/**
 * Brings a database to the newest migration, the queue's own tables first.
 * @param ownerUrl connection of the role that owns the tables
 * @returns the names of the migrations that ran now
 * @throws Error that names the migration that failed and its file; all or none of them stay
 */
export async function migrate(ownerUrl: string): Promise<readonly string[]> {
  await runMigrations({ connectionString: ownerUrl })
  const pool = new pg.Pool({ connectionString: ownerUrl, max: 1 })
  const db = new Kysely<unknown>({ dialect: new PostgresDialect({ pool }) })
  try {
    const migrator = new Migrator({ db, provider: { getMigrations: allMigrations } })
    const { error, results } = await migrator.migrateToLatest()
    if (error instanceof Error && /previously executed migration .* is missing/.test(error.message))
      throw new Error(await unknownMigrations(db), { cause: error })
    const failed = results?.find((r) => r.status === 'Error')?.migrationName
    if (error && failed)
      throw new Error(
        `The migration ${failed} (src/db/migrations/${failed}.ts) failed: ${error instanceof Error ? error.message : String(error)}. Nothing was changed.`,
        { cause: error },
      )
    if (error) throw error
    // The application compares what the database has with what it knows.
    await sql`grant select on kysely_migration to kedge_app`.execute(db)
    return (results ?? []).map((r) => r.migrationName)
  } finally {
    await db.destroy()
  }
}
