-- Learning standards, assessments with their answer keys, and students' answers.

create table learning_standard (
  school_id uuid not null,
  id uuid not null,
  subject_id uuid not null,
  code text not null,
  statement text not null,
  primary key (school_id, id),
  unique (school_id, code),
  foreign key (school_id, subject_id) references subject (school_id, id)
);
create index learning_standard_school_id_subject_id_fkey_index on learning_standard (school_id, subject_id);
select kedge_protect('learning_standard', history => '{id}');

create table assessment (
  school_id uuid not null,
  id uuid not null,
  name text not null check (name ~ '\S'),
  subject_id uuid not null,
  owner_id uuid not null,
  document_id uuid,
  given_on date not null,
  secure_from numeric(5,2) not null default 80,
  nearly_from numeric(5,2) not null default 60,
  version integer not null default 1,
  created_at timestamptz not null default kedge_now(),
  primary key (school_id, id),
  check ((0 <= nearly_from) and (nearly_from < secure_from) and (secure_from <= 100)),
  constraint assessment_name_length check (length(name) <= 120),
  foreign key (school_id, document_id) references document (school_id, id),
  foreign key (school_id, owner_id) references staff_member (school_id, id),
  foreign key (school_id, subject_id) references subject (school_id, id)
);
create index assessment_school_id_document_id_fkey_index on assessment (school_id, document_id);
create index assessment_school_id_owner_id_fkey_index on assessment (school_id, owner_id);
create index assessment_school_id_subject_id_fkey_index on assessment (school_id, subject_id);
create trigger next_version before insert or update on assessment for each row execute function kedge_next_version();
select kedge_protect('assessment', history => '{id}');

create table assessment_class (
  school_id uuid not null,
  assessment_id uuid not null,
  class_id uuid not null,
  primary key (school_id, assessment_id, class_id),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, class_id) references class (school_id, id)
);
create index assessment_class_of on assessment_class (school_id, class_id);
select kedge_protect('assessment_class', history => '{assessment_id, class_id}');

create table question (
  school_id uuid not null,
  assessment_id uuid not null,
  id uuid not null,
  position smallint not null,
  choices smallint not null check ((choices >= 2) and (choices <= 10)),
  key text,
  points numeric(6,2) not null default 1 check (points >= 0),
  standard_id uuid,
  page smallint check (page > 0),
  primary key (school_id, assessment_id, id),
  constraint question_school_id_assessment_id_position_key unique (school_id, assessment_id, position) deferrable initially deferred,
  check ((key ~ '^[A-J]$') and ((ascii(key) - 64) <= choices)),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, standard_id) references learning_standard (school_id, id)
);
create index question_school_id_standard_id_fkey_index on question (school_id, standard_id);
select kedge_protect('question', history => '{assessment_id, id}');

-- A student's answers can be taken away again; the sheet stays, so that its version goes on.
create table answer_sheet (
  school_id uuid not null,
  assessment_id uuid not null,
  student_id uuid not null,
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  answered boolean not null default true,
  primary key (school_id, assessment_id, student_id),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index answer_sheet_of_student on answer_sheet (school_id, student_id);
create trigger next_version before insert or update on answer_sheet for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on answer_sheet referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('answer_sheet', history => '{assessment_id, student_id}');

create table answer (
  school_id uuid not null,
  assessment_id uuid not null,
  student_id uuid not null,
  question_id uuid not null,
  choice text not null check (choice ~ '^[A-J]$'),
  primary key (school_id, assessment_id, student_id, question_id),
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id) on delete cascade,
  foreign key (school_id, assessment_id, student_id) references answer_sheet (school_id, assessment_id, student_id) on delete cascade
);
create index answer_school_id_assessment_id_question_id_fkey_index on answer (school_id, assessment_id, question_id);
select kedge_protect('answer', history => '{assessment_id, student_id, question_id}');

-- What each answered sheet is worth.
-- The one place a sheet's score is computed in the database; a linked assignment reads it and so can never be stale.
create view assessment_score with (security_invoker = true) as
  select s.school_id, s.assessment_id, s.student_id,
    coalesce(sum(q.points) filter (where a.choice = q.key), 0) as points,
    sum(q.points) as max_points, s.version, s.changed_at, s.changed_by
  from answer_sheet s
  join question q on q.school_id = s.school_id and q.assessment_id = s.assessment_id
  left join answer a on a.school_id = s.school_id and a.assessment_id = s.assessment_id and a.student_id = s.student_id and a.question_id = q.id
  where s.answered
  group by s.school_id, s.assessment_id, s.student_id;
grant select on assessment_score to kedge_app;
