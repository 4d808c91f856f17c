import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Students, guardians, and dated memberships of year groups, homerooms and classes. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table student (
    school_id uuid not null references school, id uuid not null,
    number integer, -- given once, on the first enrolment
    legal_given_name text not null check (legal_given_name ~ '\\S'), legal_family_name text not null check (legal_family_name ~ '\\S'),
    preferred_name text, sort_name text not null, birth_date date not null,
    address text, ferry text, support_note text,
    accepted_for uuid, expected_in uuid, expected_from date,
    version integer not null default 1,
    primary key (school_id, id), unique (school_id, number),
    foreign key (school_id, accepted_for) references year_group, foreign key (school_id, expected_in) references homeroom,
    check ((expected_in is null) = (expected_from is null))
  )`.execute(db)
  await sql`create index student_by_name on student (school_id, sort_name)`.execute(db)
  await sql`create index student_by_birth_date on student (school_id, birth_date)`.execute(db)
  await sql`create index student_expected on student (school_id, expected_in) where expected_in is not null`.execute(
    db,
  )
  await sql`create table student_number (
    school_id uuid primary key references school, next integer not null default 1
  )`.execute(db)
  await sql`create table guardian (
    school_id uuid not null references school, id uuid not null,
    given_name text not null, family_name text not null, email text, phone text, language text not null default 'en', address text,
    primary key (school_id, id)
  )`.execute(db)
  await sql`create unique index guardian_by_email on guardian (school_id, lower(email)) where email is not null`.execute(
    db,
  )
  await sql`create table guardianship (
    school_id uuid not null, student_id uuid not null, guardian_id uuid not null,
    relation text not null, contact_order smallint not null, may_receive_reports boolean not null default true,
    primary key (school_id, student_id, guardian_id),
    foreign key (school_id, student_id) references student, foreign key (school_id, guardian_id) references guardian
  )`.execute(db)
  await sql`create index guardianship_of on guardianship (school_id, guardian_id)`.execute(db)
  await sql`create table enrolment (
    school_id uuid not null, student_id uuid not null, year_id uuid not null, year_group_id uuid not null, period daterange not null,
    primary key (school_id, student_id, period), check (not isempty(period) and lower(period) is not null),
    foreign key (school_id, student_id) references student, foreign key (school_id, year_id) references academic_year,
    foreign key (school_id, year_group_id) references year_group,
    exclude using gist (school_id with =, student_id with =, period with &&)
  )`.execute(db)
  await sql`create index enrolment_of_year_group on enrolment (school_id, year_group_id)`.execute(db)
  await sql`create table homeroom_member (
    school_id uuid not null, homeroom_id uuid not null, student_id uuid not null, period daterange not null,
    primary key (school_id, homeroom_id, student_id, period), check (not isempty(period) and lower(period) is not null),
    foreign key (school_id, homeroom_id) references homeroom, foreign key (school_id, student_id) references student,
    exclude using gist (school_id with =, student_id with =, period with &&)
  )`.execute(db)
  await sql`create table class_member (
    school_id uuid not null, class_id uuid not null, student_id uuid not null, period daterange not null,
    primary key (school_id, class_id, student_id, period), check (not isempty(period) and lower(period) is not null),
    foreign key (school_id, class_id) references class, foreign key (school_id, student_id) references student,
    exclude using gist (school_id with =, class_id with =, student_id with =, period with &&)
  )`.execute(db)
  await sql`create index class_member_of_student on class_member (school_id, student_id)`.execute(db)

  await protectSchoolTable(db, 'student', { history: ['id'], may: 'select, insert, update' })
  await protectSchoolTable(db, 'student_number')
  await protectSchoolTable(db, 'guardian', { history: ['id'] })
  await protectSchoolTable(db, 'guardianship', { history: ['student_id', 'guardian_id'] })
  await protectSchoolTable(db, 'enrolment', { history: ['student_id', 'period'] })
  await protectSchoolTable(db, 'homeroom_member', { history: ['homeroom_id', 'student_id', 'period'] })
  await protectSchoolTable(db, 'class_member', { history: ['class_id', 'student_id', 'period'] })
}
