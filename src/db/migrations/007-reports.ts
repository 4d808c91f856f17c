import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Report rounds, class entries on their way from writing to release, and the cards made from them. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table report_round (
    school_id uuid not null, id uuid not null, year_id uuid not null, term_id uuid not null, name text not null,
    due_on date not null, comment_limit smallint not null default 600 check (comment_limit between 50 and 4000),
    primary key (school_id, id), foreign key (school_id, term_id) references term, foreign key (school_id, year_id) references academic_year
  )`.execute(db)
  await sql`create table report_round_year_group (
    school_id uuid not null, round_id uuid not null, year_group_id uuid not null, primary key (school_id, round_id, year_group_id),
    foreign key (school_id, round_id) references report_round, foreign key (school_id, year_group_id) references year_group
  )`.execute(db)
  await sql`create table class_entries (
    school_id uuid not null, round_id uuid not null, class_id uuid not null,
    state text not null default 'writing' check (state in ('writing', 'handed in', 'sent back', 'checked', 'released')),
    remark text check (length(remark) <= 1000), changed_by text, changed_at timestamptz, version integer not null default 1,
    primary key (school_id, round_id, class_id), check (state <> 'sent back' or remark ~ '\\S'),
    foreign key (school_id, round_id) references report_round, foreign key (school_id, class_id) references class
  )`.execute(db)
  await sql`create table report_entry (
    school_id uuid not null, round_id uuid not null, class_id uuid not null, student_id uuid not null,
    effort text check (effort in ('excellent', 'good', 'uneven', 'low')), comment text not null default '',
    handed_mark text, handed_grade text, version integer not null default 1, changed_by text not null, changed_at timestamptz not null default kedge_now(),
    primary key (school_id, round_id, class_id, student_id),
    foreign key (school_id, round_id, class_id) references class_entries, foreign key (school_id, student_id) references student
  )`.execute(db)
  await sql`create index report_entry_of_student on report_entry (school_id, student_id, round_id)`.execute(
    db,
  )
  await sql`create table report_card (
    school_id uuid not null, id uuid not null, round_id uuid not null, student_id uuid not null, issue smallint not null,
    contents jsonb not null, left_out text[] not null, document_id uuid not null, released_by text not null,
    released_at timestamptz not null default kedge_now(), replaced_at timestamptz,
    primary key (school_id, id), unique (school_id, round_id, student_id, issue),
    foreign key (school_id, round_id) references report_round, foreign key (school_id, student_id) references student,
    foreign key (school_id, document_id) references document
  )`.execute(db)
  await sql`create index report_card_of_student on report_card (school_id, student_id)`.execute(db)
  await protectSchoolTable(db, 'report_round', { history: ['id'] })
  await protectSchoolTable(db, 'report_round_year_group')
  await protectSchoolTable(db, 'class_entries', { history: ['round_id', 'class_id'] })
  await protectSchoolTable(db, 'report_entry', { history: ['round_id', 'class_id', 'student_id'] })
  await protectSchoolTable(db, 'report_card', { history: ['id'], may: 'select, insert, update' })
}
