import { sql, type Kysely } from 'kysely'

/** Names that begin with a year stand in the order people read them: 7 Tern, 8 Tern, 10 Tern. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create collation natural_order (provider = icu, locale = 'en-u-kn-true')`.execute(db)
  await sql`alter table homeroom alter column name type text collate natural_order`.execute(db)
  await sql`alter table class alter column name type text collate natural_order`.execute(db)
}
