import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/**
 * Attendance codes come in sets, each in use from a first to a last day: a new set starts on a date, and older
 * registers keep theirs. A code says what families read, what it needs beside it and who may enter it.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`create table attendance_code_set (
    school_id uuid not null references school, id uuid not null,
    name text not null check (name ~ '\\S' and length(name) <= 60),
    first_day date not null, last_day date, check (last_day >= first_day),
    version integer not null default 1,
    primary key (school_id, id),
    -- Checked at the end: an undo puts a set back before it takes the one in its place away.
    exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&) deferrable initially deferred
  )`)
  await protectSchoolTable(db, 'attendance_code_set', { history: ['id'] })
  await run(`create trigger next_version before insert or update on attendance_code_set
    for each row execute function kedge_next_version()`)
  await run(`alter table attendance_code
    add column set_id uuid,
    add column family_label text check (family_label ~ '\\S' and length(family_label) <= 120),
    add column needs_minutes boolean not null default false,
    add column needs_note boolean not null default false,
    add column office_only boolean not null default false,
    add check (not needs_minutes or meaning = 'late')`)
  // The codes that exist become one set. The owner of the tables sees all schools only while their policies rest.
  await run('alter table attendance_code no force row level security')
  await run('alter table attendance_code disable trigger keep_history')
  await run('alter table attendance_code_set no force row level security')
  await run('alter table attendance_code_set disable trigger keep_history')
  await run(`insert into attendance_code_set (school_id, id, name, first_day)
    select school_id, gen_random_uuid(), 'Attendance codes', min(first_day) from attendance_code group by school_id`)
  await run(
    `update attendance_code c set set_id = s.id from attendance_code_set s where s.school_id = c.school_id`,
  )
  await run('alter table attendance_code_set enable trigger keep_history')
  await run('alter table attendance_code_set force row level security')
  await run('alter table attendance_code enable trigger keep_history')
  await run('alter table attendance_code force row level security')
  // Two codes of a set can change places in one act.
  await run(`alter table attendance_code
    alter column set_id set not null,
    drop constraint attendance_code_school_id_code_daterange_excl,
    drop column first_day, drop column last_day,
    add foreign key (school_id, set_id) references attendance_code_set,
    add unique (school_id, set_id, code) deferrable initially deferred`)
}
