import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Documents, learning standards, assessments with their answer keys, and students' answers. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table document (
    school_id uuid not null references school, id uuid not null,
    name text not null, media_type text not null, size integer not null check (size between 1 and 26214400),
    sha256 text not null, page_count integer, bytes bytea not null,
    created_by text not null, created_at timestamptz not null default kedge_now(),
    primary key (school_id, id)
  )`.execute(db)
  await sql`alter table document alter column bytes set storage external`.execute(db)
  await sql`create table learning_standard (
    school_id uuid not null, id uuid not null, subject_id uuid not null, code text not null, statement text not null,
    primary key (school_id, id), unique (school_id, code), foreign key (school_id, subject_id) references subject
  )`.execute(db)
  await sql`create table assessment (
    school_id uuid not null, id uuid not null, name text not null check (name ~ '\\S'), subject_id uuid not null, owner_id uuid not null,
    document_id uuid, given_on date not null,
    secure_from numeric(5,2) not null default 80, nearly_from numeric(5,2) not null default 60,
    version integer not null default 1, created_at timestamptz not null default kedge_now(),
    primary key (school_id, id), check (0 <= nearly_from and nearly_from < secure_from and secure_from <= 100),
    foreign key (school_id, subject_id) references subject, foreign key (school_id, owner_id) references staff_member,
    foreign key (school_id, document_id) references document
  )`.execute(db)
  await sql`create table assessment_class (
    school_id uuid not null, assessment_id uuid not null, class_id uuid not null, primary key (school_id, assessment_id, class_id),
    foreign key (school_id, assessment_id) references assessment, foreign key (school_id, class_id) references class
  )`.execute(db)
  await sql`create index assessment_class_of on assessment_class (school_id, class_id)`.execute(db)
  await sql`create table question (
    school_id uuid not null, assessment_id uuid not null, id uuid not null, position smallint not null,
    choices smallint not null check (choices between 2 and 10), key text check (key ~ '^[A-J]$' and ascii(key) - 64 <= choices),
    points numeric(6,2) not null default 1 check (points >= 0), standard_id uuid, page smallint check (page > 0),
    primary key (school_id, assessment_id, id), unique (school_id, assessment_id, position) deferrable initially deferred,
    foreign key (school_id, assessment_id) references assessment, foreign key (school_id, standard_id) references learning_standard
  )`.execute(db)
  await sql`create table answer_sheet (
    school_id uuid not null, assessment_id uuid not null, student_id uuid not null,
    version integer not null default 1, changed_by text not null, changed_at timestamptz not null default kedge_now(),
    primary key (school_id, assessment_id, student_id),
    foreign key (school_id, assessment_id) references assessment, foreign key (school_id, student_id) references student
  )`.execute(db)
  await sql`create index answer_sheet_of_student on answer_sheet (school_id, student_id)`.execute(db)
  await sql`create table answer (
    school_id uuid not null, assessment_id uuid not null, student_id uuid not null, question_id uuid not null,
    choice text not null check (choice ~ '^[A-J]$'),
    primary key (school_id, assessment_id, student_id, question_id),
    foreign key (school_id, assessment_id, student_id) references answer_sheet on delete cascade,
    foreign key (school_id, assessment_id, question_id) references question on delete cascade
  )`.execute(db)
  // The one place a sheet's score is computed in the database; a linked assignment reads it and so can never be stale.
  await sql`create view assessment_score with (security_invoker = true) as
    select s.school_id, s.assessment_id, s.student_id,
      coalesce(sum(q.points) filter (where a.choice = q.key), 0) as points,
      sum(q.points) as max_points, s.version, s.changed_at, s.changed_by
    from answer_sheet s
    join question q on q.school_id = s.school_id and q.assessment_id = s.assessment_id
    left join answer a on a.school_id = s.school_id and a.assessment_id = s.assessment_id and a.student_id = s.student_id and a.question_id = q.id
    group by s.school_id, s.assessment_id, s.student_id`.execute(db)
  await sql`grant select on assessment_score to kedge_app`.execute(db)

  await protectSchoolTable(db, 'document', { may: 'select, insert, delete' })
  await protectSchoolTable(db, 'learning_standard', { history: ['id'] })
  await protectSchoolTable(db, 'assessment', { history: ['id'] })
  await protectSchoolTable(db, 'assessment_class', { history: ['assessment_id', 'class_id'] })
  await protectSchoolTable(db, 'question', { history: ['assessment_id', 'id'] })
  await protectSchoolTable(db, 'answer_sheet', { history: ['assessment_id', 'student_id'] })
  await protectSchoolTable(db, 'answer', { history: ['assessment_id', 'student_id', 'question_id'] })
}
