import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Marking periods and exam periods within terms. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table term_period (
    school_id uuid not null, id uuid not null, term_id uuid not null,
    kind text not null check (kind in ('marking', 'exams')),
    name text not null check (name ~ '\\S' and length(name) <= 40),
    first_day date not null, last_day date not null,
    version integer not null default 1,
    primary key (school_id, id), foreign key (school_id, term_id) references term, check (first_day <= last_day),
    -- Those of one kind do not overlap.
    exclude using gist (school_id with =, kind with =, daterange(first_day, last_day, '[]') with &&)
  )`.execute(db)
  await sql`create index term_period_of_term on term_period (school_id, term_id)`.execute(db)
  await sql`create trigger next_version before insert or update on term_period
    for each row execute function kedge_next_version()`.execute(db)
  await protectSchoolTable(db, 'term_period', { history: ['id'] })
}
