import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

/**
 * Timetables and lesson registers. A mark belongs to a half-day in a homeroom or to a lesson of a class; the session of
 * a lesson is the number of its period. A student has one mark for a session, wherever the register was taken.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`alter table year_group add column registers text not null default 'half-days'
    check (registers in ('half-days', 'lessons', 'both'))`)

  await run(`create table timetable (
    school_id uuid not null references school, id uuid not null, name text not null check (length(name) between 1 and ${limits.shortName}),
    first_day date not null, last_day date,
    cycle text not null check (cycle in ('week', 'two weeks', 'days')), cycle_days smallint not null check (cycle_days between 1 and 20),
    version integer not null default 1,
    primary key (school_id, id), check (last_day >= first_day),
    constraint timetable_days_apart exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&)
      deferrable initially deferred
  )`)
  await run(`create table timetable_period (
    school_id uuid not null, timetable_id uuid not null, number smallint not null check (number between 1 and 20),
    starts time not null, ends time not null check (ends > starts),
    primary key (school_id, timetable_id, number),
    foreign key (school_id, timetable_id) references timetable
  )`)
  await run(`create table lesson (
    school_id uuid not null, id uuid not null, timetable_id uuid not null, cycle_day smallint not null check (cycle_day between 1 and 20),
    period smallint not null, class_id uuid not null, room_id uuid, version integer not null default 1,
    primary key (school_id, id),
    unique (school_id, timetable_id, cycle_day, period, class_id),
    foreign key (school_id, timetable_id, period) references timetable_period,
    foreign key (school_id, class_id) references class, foreign key (school_id, room_id) references room
  )`)
  await run('create index lesson_of_class on lesson (school_id, class_id)')
  await run('create index lesson_in_room on lesson (school_id, room_id)')
  await run('create index lesson_of_period on lesson (school_id, timetable_id, period)')
  await run(`create table lesson_change (
    school_id uuid not null, class_id uuid not null, on_date date not null, period smallint not null check (period between 1 and 20),
    cancelled boolean not null default false, staff_id uuid, room_id uuid, note text check (length(note) <= ${limits.line}),
    version integer not null default 1, changed_by text not null, changed_at timestamptz not null default kedge_now(),
    primary key (school_id, class_id, on_date, period),
    foreign key (school_id, class_id) references class, foreign key (school_id, staff_id) references staff_member,
    foreign key (school_id, room_id) references room
  )`)
  await run('create index lesson_change_on_day on lesson_change (school_id, on_date)')
  await run('create index lesson_change_cover on lesson_change (school_id, staff_id)')
  await run('create index lesson_change_room on lesson_change (school_id, room_id)')
  for (const table of ['timetable', 'lesson', 'lesson_change'])
    await run(`create trigger next_version before insert or update on ${table}
      for each row execute function kedge_next_version()`)
  await protectSchoolTable(db, 'timetable', { history: ['id'] })
  await protectSchoolTable(db, 'timetable_period', { history: ['timetable_id', 'number'] })
  await protectSchoolTable(db, 'lesson', { history: ['id'] })
  await protectSchoolTable(db, 'lesson_change', { history: ['class_id', 'on_date', 'period'] })

  await run(`alter table attendance_mark drop constraint attendance_mark_session_check,
    alter column homeroom_id drop not null, add column class_id uuid,
    add constraint attendance_mark_session_check check (session ~ '^(morning|afternoon|[1-9][0-9]?)$'),
    add constraint attendance_mark_place check (
      (session in ('morning', 'afternoon')) = (homeroom_id is not null) and (homeroom_id is null) = (class_id is not null)),
    add foreign key (school_id, class_id) references class`)
  await run(
    `create index attendance_mark_of_class on attendance_mark (school_id, class_id, session_date, session)`,
  )

  // An absence that covers certain lessons of its days names their periods.
  await run(`alter table planned_absence drop constraint planned_absence_sessions_check,
    add column first_period smallint, add column last_period smallint,
    add constraint planned_absence_sessions_check check (sessions in ('whole day', 'morning', 'afternoon', 'lessons')),
    add constraint planned_absence_periods check ((sessions = 'lessons') = (first_period is not null)
      and (first_period is null) = (last_period is null) and last_period >= first_period)`)
}
