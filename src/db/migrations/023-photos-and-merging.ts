import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Photos of students, records that were merged into another, and what a school decides for all its staff. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (text: string) => sql.raw(text).execute(db)
  await run(`alter table student add column photo_id uuid, add column merged_into uuid,
    add foreign key (school_id, photo_id) references document, add foreign key (school_id, merged_into) references student,
    add check (merged_into <> id)`)
  await run('create index student_photo on student (school_id, photo_id)')
  await run('create index student_merged on student (school_id, merged_into)')
  await run(`create table school_setting (
    school_id uuid primary key references school,
    -- What teachers see of students they do not teach: where they belong; also details; also guardians.
    teachers_see text not null default 'places' check (teachers_see in ('places', 'details', 'contacts')),
    version integer not null default 1
  )`)
  await run(`create trigger next_version before insert or update on school_setting
    for each row execute function kedge_next_version()`)
  await protectSchoolTable(db, 'school_setting', { history: ['school_id'], may: 'select, insert, update' })
}
