import { sql, type Kysely } from 'kysely'

/** Year groups and subjects are given other names and another order on screen, so each has a version. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const table of ['year_group', 'subject']) {
    const name = sql.table(table)
    await sql`alter table ${name} add column version integer not null default 1`.execute(db)
    await sql`create trigger next_version before insert or update on ${name}
      for each row execute function kedge_next_version()`.execute(db)
  }
  // Compared at the end of a statement, so that one can put all of them into another order.
  await sql`alter table year_group drop constraint year_group_school_id_position_key`.execute(db)
  await sql`alter table year_group add constraint year_group_school_id_position_key
    unique (school_id, position) deferrable initially immediate`.execute(db)
}
