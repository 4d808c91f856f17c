import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

/** Reminders of registers that are not complete, templates of letters about attendance, and absences that guardians report. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`create table register_reminder (
    school_id uuid not null references school, id uuid not null, homeroom_id uuid, class_id uuid,
    session_date date not null, session text not null check (session ~ '^(morning|afternoon|[1-9][0-9]?)$'),
    reminded_by text not null, reminded_at timestamptz not null default kedge_now(),
    primary key (school_id, id), check ((homeroom_id is null) <> (class_id is null)),
    foreign key (school_id, homeroom_id) references homeroom, foreign key (school_id, class_id) references class
  )`)
  await run(
    'create index register_reminder_of_homeroom on register_reminder (school_id, homeroom_id, session_date)',
  )
  await run(
    'create index register_reminder_of_class on register_reminder (school_id, class_id, session_date)',
  )
  await protectSchoolTable(db, 'register_reminder', { history: ['id'] })

  await run(`create table letter_template (
    school_id uuid not null references school, id uuid not null,
    name text not null check (length(name) between 1 and ${limits.shortName}),
    subject text not null check (length(subject) between 1 and ${limits.line}),
    body text not null check (length(body) between 1 and ${limits.comment}),
    version integer not null default 1,
    primary key (school_id, id), unique (school_id, name)
  )`)
  await protectSchoolTable(db, 'letter_template', { history: ['id'] })

  await run(`create table absence_report (
    school_id uuid not null references school, id uuid not null, student_id uuid not null, guardian_id uuid not null,
    first_day date not null, last_day date not null, check (last_day >= first_day),
    sessions text not null check (sessions in ('whole day', 'morning', 'afternoon')),
    reason text not null check (length(reason) between 1 and ${limits.line}),
    reported_at timestamptz not null default kedge_now(),
    state text not null default 'waiting' check (state in ('waiting', 'confirmed', 'declined')),
    answer text check (length(answer) <= ${limits.line}), answered_by text,
    version integer not null default 1,
    primary key (school_id, id),
    foreign key (school_id, student_id) references student, foreign key (school_id, guardian_id) references guardian
  )`)
  await run('create index absence_report_of_student on absence_report (school_id, student_id)')
  await run('create index absence_report_by_guardian on absence_report (school_id, guardian_id)')
  await protectSchoolTable(db, 'absence_report', { history: ['id'] })
  for (const table of ['letter_template', 'absence_report'])
    await run(`create trigger next_version before insert or update on ${table}
      for each row execute function kedge_next_version()`)
}
