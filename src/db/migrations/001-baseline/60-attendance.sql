-- Attendance codes and marks, absences known beforehand, calls, reports by guardians, reminders and letters.

-- Attendance codes come in sets, each in use from a first to a last day: a new set starts on a date, and older
-- registers keep theirs.
create table attendance_code_set (
  school_id uuid not null references school,
  id uuid not null,
  name text not null check ((name ~ '\S') and (length(name) <= 60)),
  first_day date not null,
  last_day date,
  version integer not null default 1,
  primary key (school_id, id),
  constraint attendance_code_set_school_id_daterange_excl exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&) deferrable initially deferred,
  check (last_day >= first_day)
);
create trigger next_version before insert or update on attendance_code_set for each row execute function kedge_next_version();
select kedge_protect('attendance_code_set', history => '{id}');

-- What families read, what a code needs beside it and who may enter it. Two codes of a set can change places in one
-- act.
create table attendance_code (
  school_id uuid not null references school,
  id uuid not null,
  code text not null check (code ~ '^[A-Z][A-Z0-9]{0,3}$'),
  label text not null,
  meaning text not null check (meaning in ('present', 'late', 'absent with reason', 'absent without reason', 'elsewhere', 'not expected')),
  position smallint not null,
  set_id uuid not null,
  family_label text check ((family_label ~ '\S') and (length(family_label) <= 120)),
  needs_minutes boolean not null default false,
  needs_note boolean not null default false,
  office_only boolean not null default false,
  primary key (school_id, id),
  unique (school_id, set_id, code) deferrable initially deferred,
  check ((not needs_minutes) or (meaning = 'late')),
  foreign key (school_id, set_id) references attendance_code_set (school_id, id)
);
select kedge_protect('attendance_code', history => '{id}');

-- A mark belongs to a half-day in a homeroom or to a lesson of a class, whose session is the number of its period. A
-- student has one mark for a session, wherever the register was taken. A mark whose session does not take place any
-- more is kept from before: it counts nowhere.
create table attendance_mark (
  school_id uuid not null,
  student_id uuid not null,
  session_date date not null,
  session text not null check (session ~ '^(morning|afternoon|[1-9][0-9]?)$'),
  homeroom_id uuid,
  code_id uuid,
  minutes_late smallint check ((minutes_late >= 0) and (minutes_late <= 600)),
  note text check (length(note) <= 200),
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  reason text check ((reason ~ '\S') and (length(reason) <= 200)),
  class_id uuid,
  kept boolean not null default false,
  primary key (school_id, student_id, session_date, session),
  constraint attendance_mark_place check (((session in ('morning', 'afternoon')) = (homeroom_id is not null)) and ((homeroom_id is null) = (class_id is not null))),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, code_id) references attendance_code (school_id, id),
  foreign key (school_id, homeroom_id) references homeroom (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index attendance_mark_kept on attendance_mark (school_id, session_date, session) where kept;
create index attendance_mark_of_class on attendance_mark (school_id, class_id, session_date, session);
create index attendance_mark_of_register on attendance_mark (school_id, homeroom_id, session_date, session);
create index attendance_mark_school_id_code_id_fkey_index on attendance_mark (school_id, code_id);
create trigger next_version before insert or update on attendance_mark for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on attendance_mark referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('attendance_mark', history => '{student_id, session_date, session}');

-- Absences that are known beforehand: registers show them before they are taken. A whole day holds everything; half-
-- days and lessons are planned beside each other, and none overlaps another of its student.
create table planned_absence (
  school_id uuid not null references school,
  id uuid not null,
  student_id uuid not null,
  first_day date not null,
  last_day date not null,
  sessions text not null check (sessions in ('whole day', 'morning', 'afternoon', 'lessons')),
  code_id uuid not null,
  note text check (length(note) <= 200),
  entered_by text not null,
  version integer not null default 1,
  first_period smallint,
  last_period smallint,
  part int4range generated always as (
case sessions
    when 'whole day' then int4range(0, 1000)
    when 'morning' then int4range(0, 1)
    when 'afternoon' then int4range(1, 2)
    else int4range((10 + first_period), (11 + last_period))
end) stored not null,
  primary key (school_id, id),
  constraint plans_apart exclude using gist (school_id with =, student_id with =, daterange(first_day, last_day, '[]') with &&, part with &&) deferrable,
  check (last_day >= first_day),
  constraint planned_absence_periods check (((sessions = 'lessons') = (first_period is not null)) and ((first_period is null) = (last_period is null)) and (last_period >= first_period)),
  foreign key (school_id, code_id) references attendance_code (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index planned_absence_of_student on planned_absence (school_id, student_id, last_day);
create index planned_absence_with_code on planned_absence (school_id, code_id);
create trigger next_version before insert or update on planned_absence for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on planned_absence referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('planned_absence', history => '{id}');

-- Calls to the families of students who are absent without a reason yet.
create table absence_call (
  school_id uuid not null references school,
  id uuid not null,
  student_id uuid not null,
  absent_on date not null,
  guardian_id uuid,
  outcome text not null check (outcome in ('reached', 'no answer', 'message left', 'wrong number')),
  note text check (length(note) <= 200),
  call_again time without time zone,
  called_by text not null,
  called_at timestamptz not null default kedge_now(),
  primary key (school_id, id),
  foreign key (school_id, guardian_id) references guardian (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index absence_call_of_student on absence_call (school_id, student_id, absent_on);
create index absence_call_to_guardian on absence_call (school_id, guardian_id);
create trigger refuse_merged_added after insert on absence_call referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('absence_call', history => '{id}');

-- Absences that guardians report; the office confirms them.
create table absence_report (
  school_id uuid not null references school,
  id uuid not null,
  student_id uuid not null,
  guardian_id uuid not null,
  first_day date not null,
  last_day date not null,
  sessions text not null check (sessions in ('whole day', 'morning', 'afternoon')),
  reason text not null check ((length(reason) >= 1) and (length(reason) <= 200)),
  reported_at timestamptz not null default kedge_now(),
  state text not null default 'waiting' check (state in ('waiting', 'confirmed', 'declined')),
  answer text check (length(answer) <= 200),
  answered_by text,
  version integer not null default 1,
  primary key (school_id, id),
  check (last_day >= first_day),
  foreign key (school_id, guardian_id) references guardian (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index absence_report_by_guardian on absence_report (school_id, guardian_id);
create index absence_report_of_student on absence_report (school_id, student_id);
create trigger next_version before insert or update on absence_report for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on absence_report referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('absence_report', history => '{id}');

create table register_reminder (
  school_id uuid not null references school,
  id uuid not null,
  homeroom_id uuid,
  class_id uuid,
  session_date date not null,
  session text not null check (session ~ '^(morning|afternoon|[1-9][0-9]?)$'),
  reminded_by text not null,
  reminded_at timestamptz not null default kedge_now(),
  primary key (school_id, id),
  check ((homeroom_id is null) <> (class_id is null)),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, homeroom_id) references homeroom (school_id, id)
);
create index register_reminder_of_class on register_reminder (school_id, class_id, session_date);
create index register_reminder_of_homeroom on register_reminder (school_id, homeroom_id, session_date);
select kedge_protect('register_reminder', history => '{id}');

create table letter_template (
  school_id uuid not null references school,
  id uuid not null,
  name text not null check ((length(name) >= 1) and (length(name) <= 60)),
  subject text not null check ((length(subject) >= 1) and (length(subject) <= 200)),
  body text not null check ((length(body) >= 1) and (length(body) <= 4000)),
  version integer not null default 1,
  primary key (school_id, id),
  unique (school_id, name)
);
create trigger next_version before insert or update on letter_template for each row execute function kedge_next_version();
select kedge_protect('letter_template', history => '{id}');
