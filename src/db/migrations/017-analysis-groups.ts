import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Groups by which results are looked at, such as learners of the language, with dated members. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table analysis_group (
    school_id uuid not null references school, id uuid not null,
    name text not null check (name ~ '\\S' and length(name) <= 60),
    version integer not null default 1,
    primary key (school_id, id), unique (school_id, name)
  )`.execute(db)
  await sql`create trigger next_version before insert or update on analysis_group
    for each row execute function kedge_next_version()`.execute(db)
  await sql`create table analysis_group_member (
    school_id uuid not null, group_id uuid not null, student_id uuid not null, period daterange not null,
    primary key (school_id, group_id, student_id, period), check (not isempty(period) and lower(period) is not null),
    foreign key (school_id, group_id) references analysis_group, foreign key (school_id, student_id) references student,
    exclude using gist (school_id with =, group_id with =, student_id with =, period with &&)
  )`.execute(db)
  await sql`create index analysis_group_member_of_student on analysis_group_member (school_id, student_id)`.execute(
    db,
  )
  await protectSchoolTable(db, 'analysis_group', { history: ['id'] })
  await protectSchoolTable(db, 'analysis_group_member', { history: ['group_id', 'student_id', 'period'] })
}
