-- Students, guardians, and dated memberships of year groups, homerooms, classes and groups.

-- Edited field by field: each field has a version of its own, that of the row when the field was last changed. A
-- plain name is what somebody is found by; the database draws it, so it is no part of a history.
create table student (
  school_id uuid not null references school,
  id uuid not null,
  number integer,
  legal_given_name text not null check (legal_given_name ~ '\S'),
  legal_family_name text not null check (legal_family_name ~ '\S'),
  preferred_name text,
  sort_name text not null,
  birth_date date not null,
  address text,
  transport text,
  support_note text,
  accepted_for uuid,
  expected_in uuid,
  expected_from date,
  version integer not null default 1,
  pronouns text check (length(pronouns) <= 60),
  medical_note text check (length(medical_note) <= 1000),
  roll_version integer not null default 0,
  field_versions jsonb not null default '{}'::jsonb,
  photo_id uuid,
  merged_into uuid,
  plain_name text generated always as (kedge_plain(((((sort_name || ' ') || legal_given_name) || ' ') || coalesce(lpad((number)::text, 4, '0'), '')))) stored,
  primary key (school_id, id),
  unique (school_id, number),
  constraint student_address_length check (length(address) <= 200),
  check ((expected_in is null) = (expected_from is null)),
  constraint student_check1 check (merged_into <> id),
  constraint student_legal_family_name_length check (length(legal_family_name) <= 80),
  constraint student_legal_given_name_length check (length(legal_given_name) <= 80),
  constraint student_preferred_name_length check (length(preferred_name) <= 80),
  constraint student_sort_name_length check (length(sort_name) <= 162),
  constraint student_support_note_length check (length(support_note) <= 1000),
  constraint student_transport_length check (length(transport) <= 200),
  foreign key (school_id, accepted_for) references year_group (school_id, id),
  foreign key (school_id, expected_in) references homeroom (school_id, id),
  foreign key (school_id, merged_into) references student (school_id, id),
  foreign key (school_id, photo_id) references document (school_id, id)
);
create index student_by_birth_date on student (school_id, birth_date);
create index student_by_name on student (school_id, sort_name);
create index student_expected on student (school_id, expected_in) where (expected_in is not null);
create index student_merged on student (school_id, merged_into);
create index student_photo on student (school_id, photo_id);
create index student_school_id_accepted_for_fkey_index on student (school_id, accepted_for);
create index student_school_id_expected_in_fkey_index on student (school_id, expected_in);
create trigger next_version before insert or update on student for each row execute function kedge_next_version();
create trigger note_fields before update on student for each row execute function kedge_note_fields();
create trigger refuse_merged before update on student for each row execute function kedge_refuse_merged_student();
select kedge_protect('student', history => '{id}');

create table student_number (
  school_id uuid primary key references school,
  next integer not null default 1
);
select kedge_protect('student_number');

create table guardian (
  school_id uuid not null references school,
  id uuid not null,
  given_name text not null,
  family_name text not null,
  email text,
  phone text,
  language text not null default 'en',
  address text,
  version integer not null default 1,
  field_versions jsonb not null default '{}'::jsonb,
  plain_name text generated always as (kedge_plain(((family_name || ' ') || given_name))) stored,
  primary key (school_id, id),
  constraint guardian_address_length check (length(address) <= 200),
  constraint guardian_email_length check (length(email) <= 254),
  constraint guardian_family_name_length check (length(family_name) <= 80),
  constraint guardian_given_name_length check (length(given_name) <= 80),
  constraint guardian_language_length check (length(language) <= 12),
  constraint guardian_phone_length check (length(phone) <= 40)
);
create unique index guardian_by_email on guardian (school_id, lower(email)) where (email is not null);
create trigger next_version before insert or update on guardian for each row execute function kedge_next_version();
create trigger note_fields before update on guardian for each row execute function kedge_note_fields();
select kedge_protect('guardian', history => '{id}');

create table guardianship (
  school_id uuid not null,
  student_id uuid not null,
  guardian_id uuid not null,
  relation text not null,
  contact_order smallint not null,
  may_receive_reports boolean not null default true,
  version integer not null default 1,
  primary key (school_id, student_id, guardian_id),
  constraint guardianship_relation_length check (length(relation) <= 40),
  foreign key (school_id, guardian_id) references guardian (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index guardianship_of on guardianship (school_id, guardian_id);
create trigger next_version before insert or update on guardianship for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on guardianship referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('guardianship', history => '{student_id, guardian_id}');

create table enrolment (
  school_id uuid not null,
  student_id uuid not null,
  year_id uuid not null,
  year_group_id uuid not null,
  period daterange not null check ((not isempty(period)) and (lower(period) is not null)),
  primary key (school_id, student_id, period),
  constraint enrolment_school_id_student_id_period_excl exclude using gist (school_id with =, student_id with =, period with &&),
  foreign key (school_id, student_id) references student (school_id, id),
  foreign key (school_id, year_group_id) references year_group (school_id, id),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index enrolment_of_year_group on enrolment (school_id, year_group_id);
create index enrolment_school_id_year_id_fkey_index on enrolment (school_id, year_id);
create trigger refuse_merged_added after insert on enrolment referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('enrolment', history => '{student_id, period}');

create table homeroom_member (
  school_id uuid not null,
  homeroom_id uuid not null,
  student_id uuid not null,
  period daterange not null check ((not isempty(period)) and (lower(period) is not null)),
  primary key (school_id, homeroom_id, student_id, period),
  constraint homeroom_member_school_id_student_id_period_excl exclude using gist (school_id with =, student_id with =, period with &&),
  foreign key (school_id, homeroom_id) references homeroom (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create trigger refuse_merged_added after insert on homeroom_member referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('homeroom_member', history => '{homeroom_id, student_id, period}');

create table class_member (
  school_id uuid not null,
  class_id uuid not null,
  student_id uuid not null,
  period daterange not null check ((not isempty(period)) and (lower(period) is not null)),
  primary key (school_id, class_id, student_id, period),
  constraint class_member_school_id_class_id_student_id_period_excl exclude using gist (school_id with =, class_id with =, student_id with =, period with &&),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index class_member_of_student on class_member (school_id, student_id);
create trigger refuse_merged_added after insert on class_member referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('class_member', history => '{class_id, student_id, period}');

-- Why and where to a student left; the enrolments say when.
create table departure (
  school_id uuid not null,
  student_id uuid not null,
  last_day date not null,
  reason text not null check ((length(reason) >= 1) and (length(reason) <= 200)),
  destination text check (length(destination) <= 200),
  primary key (school_id, student_id, last_day),
  foreign key (school_id, student_id) references student (school_id, id)
);
create trigger refuse_merged_added after insert on departure referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('departure', history => '{student_id, last_day}');

-- Groups by which results are looked at, such as learners of the language, with dated members.
create table analysis_group (
  school_id uuid not null references school,
  id uuid not null,
  name text not null check ((name ~ '\S') and (length(name) <= 60)),
  version integer not null default 1,
  primary key (school_id, id),
  unique (school_id, name)
);
create trigger next_version before insert or update on analysis_group for each row execute function kedge_next_version();
select kedge_protect('analysis_group', history => '{id}');

create table analysis_group_member (
  school_id uuid not null,
  group_id uuid not null,
  student_id uuid not null,
  period daterange not null check ((not isempty(period)) and (lower(period) is not null)),
  primary key (school_id, group_id, student_id, period),
  constraint analysis_group_member_school_id_group_id_student_id_period_excl exclude using gist (school_id with =, group_id with =, student_id with =, period with &&),
  foreign key (school_id, group_id) references analysis_group (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index analysis_group_member_of_student on analysis_group_member (school_id, student_id);
create trigger refuse_merged_added after insert on analysis_group_member referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('analysis_group_member', history => '{group_id, student_id, period}');
