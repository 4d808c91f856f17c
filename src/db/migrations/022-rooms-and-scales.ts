import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Rooms; grading scales edited on screen; homerooms that are closed from a date on. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table room (
    school_id uuid not null references school, id uuid not null,
    name text not null check (name ~ '\\S' and length(name) <= 40),
    version integer not null default 1,
    primary key (school_id, id), unique (school_id, name)
  )`.execute(db)
  await protectSchoolTable(db, 'room', { history: ['id'] })
  await sql`alter table grading_scale add column version integer not null default 1`.execute(db)
  for (const table of ['room', 'grading_scale'])
    await sql`create trigger next_version before insert or update on ${sql.table(table)}
      for each row execute function kedge_next_version()`.execute(db)
  for (const table of ['class', 'homeroom']) {
    await sql`alter table ${sql.table(table)} add column room_id uuid,
      add foreign key (school_id, room_id) references room`.execute(db)
    await sql`create index ${sql.ref(`${table}_in_room`)} on ${sql.table(table)} (school_id, room_id)`.execute(
      db,
    )
  }
  // Nobody belongs to it after this day.
  await sql`alter table homeroom add column last_day date`.execute(db)
}
