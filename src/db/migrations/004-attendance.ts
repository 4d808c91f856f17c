import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Attendance codes and marks. A student has at most one mark for a half-day, wherever the register was taken. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table attendance_code (
    school_id uuid not null references school, id uuid not null,
    code text not null check (code ~ '^[A-Z][A-Z0-9]{0,3}$'), label text not null,
    meaning text not null check (meaning in ('present', 'late', 'absent with reason', 'absent without reason', 'elsewhere', 'not expected')),
    position smallint not null, first_day date not null, last_day date,
    primary key (school_id, id),
    exclude using gist (school_id with =, code with =, daterange(first_day, last_day, '[]') with &&)
  )`.execute(db)
  await sql`create table attendance_mark (
    school_id uuid not null, student_id uuid not null, session_date date not null,
    session text not null check (session in ('morning', 'afternoon')),
    homeroom_id uuid not null, code_id uuid, minutes_late smallint check (minutes_late between 0 and 600), note text check (length(note) <= 200),
    version integer not null default 1, changed_by text not null, changed_at timestamptz not null default kedge_now(),
    primary key (school_id, student_id, session_date, session),
    foreign key (school_id, student_id) references student, foreign key (school_id, homeroom_id) references homeroom,
    foreign key (school_id, code_id) references attendance_code
  )`.execute(db)
  await sql`create index attendance_mark_of_register on attendance_mark (school_id, homeroom_id, session_date, session)`.execute(
    db,
  )
  await protectSchoolTable(db, 'attendance_code', { history: ['id'] })
  await protectSchoolTable(db, 'attendance_mark', { history: ['student_id', 'session_date', 'session'] })
}
