import { runMigrations } from 'graphile-worker'
import { Migrator } from 'kysely'
import { connect } from './connection'
import { migrations } from './migrations'

/**
 * Brings a database to the newest migration, the queue's own tables first.
 * @param ownerUrl connection of the role that owns the tables
 * @returns the names of the migrations that ran now
 * @throws the first migration's error; what ran before it stays
 */
export async function migrate(ownerUrl: string): Promise<readonly string[]> {
  await runMigrations({ connectionString: ownerUrl })
  const db = connect(ownerUrl, { max: 1 })
  try {
    const migrator = new Migrator({ db, provider: { getMigrations: async () => ({ ...migrations }) } })
    const { error, results } = await migrator.migrateToLatest()
    if (error) throw error
    return (results ?? []).map((r) => r.migrationName)
  } finally {
    await db.destroy()
  }
}
