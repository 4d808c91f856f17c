import { sql, type Kysely } from 'kysely'

/** Classes, homerooms and days without school are edited on screen, so each has a version. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of ['homeroom', 'class', 'closure']) {
    const name = sql.table(table)
    await sql`alter table ${name} add column version integer not null default 1`.execute(db)
    await sql`create trigger next_version before insert or update on ${name}
      for each row execute function kedge_next_version()`.execute(db)
  }
}
