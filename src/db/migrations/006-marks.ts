import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Gradebooks: settings, weighted categories, assignments and scores. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table gradebook (
    school_id uuid not null, class_id uuid not null, term_id uuid not null,
    decimals smallint not null default 1 check (decimals between 0 and 3),
    empty_counts text not null default 'nothing' check (empty_counts in ('nothing', 'zero after due')),
    missing_counts text not null default 'zero' check (missing_counts in ('nothing', 'zero')),
    version integer not null default 1,
    primary key (school_id, class_id, term_id), foreign key (school_id, class_id, term_id) references class_term
  )`.execute(db)
  await sql`create table category (
    school_id uuid not null, id uuid not null, class_id uuid not null, term_id uuid not null, name text not null check (name ~ '\\S'),
    weight numeric(6,2) not null check (weight >= 0), drop_lowest smallint not null default 0 check (drop_lowest >= 0), position smallint not null,
    primary key (school_id, id), unique (school_id, class_id, term_id, id),
    foreign key (school_id, class_id, term_id) references gradebook
  )`.execute(db)
  await sql`create table assignment (
    school_id uuid not null, id uuid not null, class_id uuid not null, term_id uuid not null, category_id uuid not null,
    name text not null check (name ~ '\\S'), max_points numeric(7,2) not null check (max_points > 0),
    due_on date not null, assessment_id uuid, counts boolean not null default true, version integer not null default 1,
    primary key (school_id, id),
    foreign key (school_id, class_id, term_id, category_id) references category (school_id, class_id, term_id, id),
    foreign key (school_id, assessment_id) references assessment
  )`.execute(db)
  await sql`create index assignment_of_class on assignment (school_id, class_id, term_id)`.execute(db)
  await sql`create unique index assignment_of_assessment on assignment (school_id, assessment_id, class_id) where assessment_id is not null`.execute(
    db,
  )
  await sql`create table score (
    school_id uuid not null, assignment_id uuid not null, student_id uuid not null,
    points numeric(7,2) check (points >= 0), standing text check (standing in ('missing', 'excused')),
    version integer not null default 1, changed_by text not null, changed_at timestamptz not null default kedge_now(),
    primary key (school_id, assignment_id, student_id), check (points is null or standing is null),
    foreign key (school_id, assignment_id) references assignment, foreign key (school_id, student_id) references student
  )`.execute(db)
  await sql`create index score_of_student on score (school_id, student_id)`.execute(db)
  await protectSchoolTable(db, 'gradebook', { history: ['class_id', 'term_id'] })
  await protectSchoolTable(db, 'category', { history: ['id'] })
  await protectSchoolTable(db, 'assignment', { history: ['id'] })
  await protectSchoolTable(db, 'score', { history: ['assignment_id', 'student_id'] })
}
