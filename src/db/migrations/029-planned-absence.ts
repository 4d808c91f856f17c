import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

/** Absences that are known beforehand: registers show them before they are taken. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`create table planned_absence (
    school_id uuid not null references school, id uuid not null, student_id uuid not null,
    first_day date not null, last_day date not null, check (last_day >= first_day),
    sessions text not null check (sessions in ('whole day', 'morning', 'afternoon')),
    code_id uuid not null, note text check (length(note) <= ${limits.line}), entered_by text not null,
    version integer not null default 1,
    primary key (school_id, id),
    foreign key (school_id, student_id) references student,
    foreign key (school_id, code_id) references attendance_code
  )`)
  await run('create index planned_absence_of_student on planned_absence (school_id, student_id, last_day)')
  await run('create index planned_absence_with_code on planned_absence (school_id, code_id)')
  await protectSchoolTable(db, 'planned_absence', { history: ['id'] })
  await run(`create trigger next_version before insert or update on planned_absence
    for each row execute function kedge_next_version()`)
}
