import { sql, type Kysely } from 'kysely'

/**
 * A mark whose session does not take place any more (a day that lost its school, a lesson that was cancelled) is kept
 * from before: it counts nowhere. A lesson of a timetable stands there from a day to a day, so that what is changed
 * today leaves the registers of yesterday as they are.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  await run('alter table attendance_mark add column kept boolean not null default false')
  await run(
    'create index attendance_mark_kept on attendance_mark (school_id, session_date, session) where kept',
  )

  // Days without school that are entered when they have begun do not move a cycle of days under what was taught since.
  await run('alter table closure add column counted_until date')

  // The last day of somebody who leaves on a day to come; the clock closes the account after it.
  await run('alter table staff_member add column last_day date')

  await run(`alter table lesson add column days daterange not null default '(,)'`)
  await run(`do $$ declare c text; begin
    select conname into c from pg_constraint where conrelid = 'lesson'::regclass and contype = 'u'
      and array_length(conkey, 1) = 5;
    if c is not null then execute format('alter table lesson drop constraint %I', c); end if;
  end $$`)
  await run(`alter table lesson add constraint lessons_apart exclude using gist (school_id with =, timetable_id with =,
    cycle_day with =, period with =, class_id with =, days with &&) deferrable`)
  await run('create index lesson_of_slot on lesson (school_id, timetable_id, cycle_day, period)')
}
