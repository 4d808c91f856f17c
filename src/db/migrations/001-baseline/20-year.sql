-- Academic years, terms and closures; year groups, homerooms, rooms, subjects, courses and classes; grading scales.

create table academic_year (
  school_id uuid not null references school,
  id uuid not null,
  name text not null,
  first_day date not null,
  last_day date not null,
  weekdays smallint[] not null,
  version integer not null default 1,
  primary key (school_id, id),
  constraint academic_year_school_id_daterange_excl exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&),
  check (first_day < last_day)
);
create trigger next_version before insert or update on academic_year for each row execute function kedge_next_version();
select kedge_protect('academic_year', history => '{id}');

create table term (
  school_id uuid not null,
  id uuid not null,
  year_id uuid not null,
  name text not null,
  position smallint not null,
  first_day date not null,
  last_day date not null,
  version integer not null default 1,
  open boolean not null default true,
  primary key (school_id, id),
  constraint term_school_id_daterange_excl exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&),
  check (first_day < last_day),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index term_school_id_year_id_fkey_index on term (school_id, year_id);
create trigger next_version before insert or update on term for each row execute function kedge_next_version();
select kedge_protect('term', history => '{id}');

-- Marking periods and exam periods within terms.
create table term_period (
  school_id uuid not null,
  id uuid not null,
  term_id uuid not null,
  kind text not null check (kind in ('marking', 'exams')),
  name text not null check ((name ~ '\S') and (length(name) <= 40)),
  first_day date not null,
  last_day date not null,
  version integer not null default 1,
  primary key (school_id, id),
  constraint term_period_school_id_kind_daterange_excl exclude using gist (school_id with =, kind with =, daterange(first_day, last_day, '[]') with &&),
  check (first_day <= last_day),
  foreign key (school_id, term_id) references term (school_id, id)
);
create index term_period_of_term on term_period (school_id, term_id);
create trigger next_version before insert or update on term_period for each row execute function kedge_next_version();
select kedge_protect('term_period', history => '{id}');

create table closure (
  school_id uuid not null,
  id uuid not null,
  year_id uuid not null,
  kind text not null check (kind in ('break', 'holiday', 'staff day')),
  name text not null,
  first_day date not null,
  last_day date not null,
  version integer not null default 1,
  counted_until date,
  primary key (school_id, id),
  constraint closures_apart exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&) deferrable,
  check (first_day <= last_day),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index closure_school_id_year_id_fkey_index on closure (school_id, year_id);
create trigger next_version before insert or update on closure for each row execute function kedge_next_version();
select kedge_protect('closure', history => '{id}');

create table school_setting (
  school_id uuid primary key references school,
  teachers_see text not null default 'places' check (teachers_see in ('places', 'details', 'contacts')),
  version integer not null default 1,
  attendance_threshold smallint not null default 90 check ((attendance_threshold >= 1) and (attendance_threshold <= 100))
);
create trigger next_version before insert or update on school_setting for each row execute function kedge_next_version();
select kedge_protect('school_setting', history => '{school_id}');

create table year_group (
  school_id uuid not null references school,
  id uuid not null,
  name text not null,
  position smallint not null,
  version integer not null default 1,
  registers text not null default 'half-days' check (registers in ('half-days', 'lessons', 'both')),
  primary key (school_id, id),
  unique (school_id, name),
  constraint year_group_school_id_position_key unique (school_id, position) deferrable
);
create trigger next_version before insert or update on year_group for each row execute function kedge_next_version();
select kedge_protect('year_group', history => '{id}');

create table room (
  school_id uuid not null references school,
  id uuid not null,
  name text not null check ((name ~ '\S') and (length(name) <= 40)),
  version integer not null default 1,
  primary key (school_id, id),
  unique (school_id, name)
);
create trigger next_version before insert or update on room for each row execute function kedge_next_version();
select kedge_protect('room', history => '{id}');

create table homeroom (
  school_id uuid not null,
  id uuid not null,
  year_id uuid not null,
  year_group_id uuid not null,
  name text not null collate natural_order,
  version integer not null default 1,
  room_id uuid,
  last_day date,
  primary key (school_id, id),
  unique (school_id, year_id, name),
  foreign key (school_id, room_id) references room (school_id, id),
  foreign key (school_id, year_group_id) references year_group (school_id, id),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index homeroom_in_room on homeroom (school_id, room_id);
create index homeroom_school_id_year_group_id_fkey_index on homeroom (school_id, year_group_id);
create trigger next_version before insert or update on homeroom for each row execute function kedge_next_version();
select kedge_protect('homeroom', history => '{id}');

create table subject (
  school_id uuid not null references school,
  id uuid not null,
  name text not null,
  position smallint not null,
  version integer not null default 1,
  primary key (school_id, id),
  unique (school_id, name)
);
create trigger next_version before insert or update on subject for each row execute function kedge_next_version();
select kedge_protect('subject', history => '{id}');

create table course (
  school_id uuid not null,
  id uuid not null,
  subject_id uuid not null,
  year_group_id uuid not null,
  name text not null,
  primary key (school_id, id),
  foreign key (school_id, subject_id) references subject (school_id, id),
  foreign key (school_id, year_group_id) references year_group (school_id, id)
);
create index course_school_id_subject_id_fkey_index on course (school_id, subject_id);
create index course_school_id_year_group_id_fkey_index on course (school_id, year_group_id);
select kedge_protect('course', history => '{id}');

create table grading_scale (
  school_id uuid not null references school,
  id uuid not null,
  name text not null,
  version integer not null default 1,
  primary key (school_id, id)
);
create trigger next_version before insert or update on grading_scale for each row execute function kedge_next_version();
select kedge_protect('grading_scale', history => '{id}');

create table grading_band (
  school_id uuid not null,
  scale_id uuid not null,
  grade text not null,
  from_percent numeric(5,2) not null check ((from_percent >= 0) and (from_percent <= 100)),
  primary key (school_id, scale_id, grade),
  unique (school_id, scale_id, from_percent),
  foreign key (school_id, scale_id) references grading_scale (school_id, id)
);
select kedge_protect('grading_band', history => '{scale_id, grade}');

create table class (
  school_id uuid not null,
  id uuid not null,
  year_id uuid not null,
  course_id uuid not null,
  scale_id uuid not null,
  name text not null collate natural_order,
  version integer not null default 1,
  room_id uuid,
  primary key (school_id, id),
  unique (school_id, year_id, name),
  foreign key (school_id, course_id) references course (school_id, id),
  foreign key (school_id, room_id) references room (school_id, id),
  foreign key (school_id, scale_id) references grading_scale (school_id, id),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index class_in_room on class (school_id, room_id);
create index class_of_course on class (school_id, course_id);
create index class_school_id_scale_id_fkey_index on class (school_id, scale_id);
create trigger next_version before insert or update on class for each row execute function kedge_next_version();
select kedge_protect('class', history => '{id}');

create table homeroom_class (
  school_id uuid not null,
  homeroom_id uuid not null,
  class_id uuid not null,
  primary key (school_id, homeroom_id, class_id),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, homeroom_id) references homeroom (school_id, id)
);
create index homeroom_class_school_id_class_id_fkey_index on homeroom_class (school_id, class_id);
select kedge_protect('homeroom_class', history => '{homeroom_id, class_id}');

create table class_term (
  school_id uuid not null,
  class_id uuid not null,
  term_id uuid not null,
  primary key (school_id, class_id, term_id),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, term_id) references term (school_id, id)
);
create index class_term_school_id_term_id_fkey_index on class_term (school_id, term_id);
select kedge_protect('class_term', history => '{class_id, term_id}');
