import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Academic years, terms, closures, year groups, homerooms, subjects, courses, classes and staff. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table academic_year (
    school_id uuid not null references school, id uuid not null,
    name text not null, first_day date not null, last_day date not null, weekdays smallint[] not null,
    primary key (school_id, id), check (first_day < last_day),
    exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&)
  )`.execute(db)
  await sql`create table term (
    school_id uuid not null, id uuid not null, year_id uuid not null,
    name text not null, position smallint not null, first_day date not null, last_day date not null,
    primary key (school_id, id), foreign key (school_id, year_id) references academic_year, check (first_day < last_day),
    exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&)
  )`.execute(db)
  await sql`create table closure (
    school_id uuid not null, id uuid not null, year_id uuid not null,
    kind text not null check (kind in ('break', 'holiday', 'staff day')), name text not null,
    first_day date not null, last_day date not null,
    primary key (school_id, id), foreign key (school_id, year_id) references academic_year, check (first_day <= last_day)
  )`.execute(db)
  await sql`create table staff_member (
    school_id uuid not null references school, id uuid not null,
    given_name text not null, family_name text not null, sort_name text not null, email text, phone text,
    primary key (school_id, id)
  )`.execute(db)
  await sql`create table year_group (
    school_id uuid not null references school, id uuid not null, name text not null, position smallint not null,
    primary key (school_id, id), unique (school_id, position), unique (school_id, name)
  )`.execute(db)
  await sql`create table homeroom (
    school_id uuid not null, id uuid not null, year_id uuid not null, year_group_id uuid not null, name text not null,
    primary key (school_id, id), unique (school_id, year_id, name),
    foreign key (school_id, year_id) references academic_year, foreign key (school_id, year_group_id) references year_group
  )`.execute(db)
  await sql`create table homeroom_teacher (
    school_id uuid not null, homeroom_id uuid not null, staff_id uuid not null, period daterange not null,
    primary key (school_id, homeroom_id, staff_id, period),
    foreign key (school_id, homeroom_id) references homeroom, foreign key (school_id, staff_id) references staff_member,
    exclude using gist (school_id with =, homeroom_id with =, staff_id with =, period with &&)
  )`.execute(db)
  await sql`create index homeroom_teacher_of on homeroom_teacher (school_id, staff_id)`.execute(db)
  await sql`create table subject (
    school_id uuid not null references school, id uuid not null, name text not null, position smallint not null,
    primary key (school_id, id), unique (school_id, name)
  )`.execute(db)
  await sql`create table grading_scale (
    school_id uuid not null references school, id uuid not null, name text not null, primary key (school_id, id)
  )`.execute(db)
  await sql`create table grading_band (
    school_id uuid not null, scale_id uuid not null, grade text not null, from_percent numeric(5,2) not null check (from_percent between 0 and 100),
    primary key (school_id, scale_id, grade), unique (school_id, scale_id, from_percent),
    foreign key (school_id, scale_id) references grading_scale
  )`.execute(db)
  await sql`create table course (
    school_id uuid not null, id uuid not null, subject_id uuid not null, year_group_id uuid not null, name text not null,
    primary key (school_id, id), foreign key (school_id, subject_id) references subject,
    foreign key (school_id, year_group_id) references year_group
  )`.execute(db)
  await sql`create table class (
    school_id uuid not null, id uuid not null, year_id uuid not null, course_id uuid not null, scale_id uuid not null, name text not null,
    primary key (school_id, id), unique (school_id, year_id, name), foreign key (school_id, year_id) references academic_year,
    foreign key (school_id, course_id) references course, foreign key (school_id, scale_id) references grading_scale
  )`.execute(db)
  await sql`create index class_of_course on class (school_id, course_id)`.execute(db)
  await sql`create table class_term (
    school_id uuid not null, class_id uuid not null, term_id uuid not null, primary key (school_id, class_id, term_id),
    foreign key (school_id, class_id) references class, foreign key (school_id, term_id) references term
  )`.execute(db)
  await sql`create table class_teacher (
    school_id uuid not null, class_id uuid not null, staff_id uuid not null, period daterange not null,
    primary key (school_id, class_id, staff_id, period),
    foreign key (school_id, class_id) references class, foreign key (school_id, staff_id) references staff_member,
    exclude using gist (school_id with =, class_id with =, staff_id with =, period with &&)
  )`.execute(db)
  await sql`create index class_teacher_of on class_teacher (school_id, staff_id)`.execute(db)
  await sql`create table homeroom_class (
    school_id uuid not null, homeroom_id uuid not null, class_id uuid not null, primary key (school_id, homeroom_id, class_id),
    foreign key (school_id, homeroom_id) references homeroom, foreign key (school_id, class_id) references class
  )`.execute(db)

  await protectSchoolTable(db, 'staff_member', { history: ['id'] })
  for (const [table, key] of [
    ['academic_year', ['id']],
    ['term', ['id']],
    ['closure', ['id']],
    ['year_group', ['id']],
    ['homeroom', ['id']],
    ['homeroom_teacher', ['homeroom_id', 'staff_id']],
    ['subject', ['id']],
    ['grading_scale', ['id']],
    ['grading_band', ['scale_id', 'grade']],
    ['course', ['id']],
    ['class', ['id']],
    ['class_term', ['class_id', 'term_id']],
    ['class_teacher', ['class_id', 'staff_id']],
    ['homeroom_class', ['homeroom_id', 'class_id']],
  ] as const)
    await protectSchoolTable(db, table, { history: key })
}
