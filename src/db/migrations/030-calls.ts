import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

/** Calls to the families of students who are absent without a reason yet. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`create table absence_call (
    school_id uuid not null references school, id uuid not null, student_id uuid not null, absent_on date not null,
    guardian_id uuid,
    outcome text not null check (outcome in ('reached', 'no answer', 'message left', 'wrong number')),
    note text check (length(note) <= ${limits.line}), call_again time,
    called_by text not null, called_at timestamptz not null default kedge_now(),
    primary key (school_id, id),
    foreign key (school_id, student_id) references student,
    foreign key (school_id, guardian_id) references guardian
  )`)
  await run('create index absence_call_of_student on absence_call (school_id, student_id, absent_on)')
  await run('create index absence_call_to_guardian on absence_call (school_id, guardian_id)')
  await protectSchoolTable(db, 'absence_call', { history: ['id'] })
}
