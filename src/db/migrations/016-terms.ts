import { sql, type Kysely } from 'kysely'

/** Years and terms are edited after they were created, and a term is open or closed to teachers. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of ['academic_year', 'term']) {
    const name = sql.table(table)
    await sql`alter table ${name} add column version integer not null default 1`.execute(db)
    await sql`create trigger next_version before insert or update on ${name}
      for each row execute function kedge_next_version()`.execute(db)
  }
  await sql`alter table term add column open boolean not null default true`.execute(db)
}
