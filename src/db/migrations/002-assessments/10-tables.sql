-- Learning standards in frameworks; assessments with forms, sittings, keys by version; attempts with their responses.

create table standard_set (
  school_id uuid not null,
  id uuid not null,
  name text not null check (name ~ '\S'),
  subject_id uuid,
  -- Where it was published, as an imported file says.
  source text,
  version integer not null default 1,
  primary key (school_id, id),
  constraint standard_set_name_length check (length(name) <= 120),
  foreign key (school_id, subject_id) references subject (school_id, id)
);
create unique index standard_set_source on standard_set (school_id, source) where (source is not null);
create index standard_set_school_id_subject_id_fkey_index on standard_set (school_id, subject_id);
create trigger next_version before insert or update on standard_set for each row execute function kedge_next_version();
select kedge_protect('standard_set', history => '{id}');

create table standard (
  school_id uuid not null,
  id uuid not null,
  set_id uuid not null,
  parent_id uuid,
  position smallint not null default 1,
  code text,
  statement text not null check (statement ~ '\S'),
  -- The years it is meant for, as the codes of the common list (07 is Year 7); none where it is for all.
  years text[] not null default '{}',
  -- The identifier it has wherever it was published.
  source text,
  primary key (school_id, id),
  unique (school_id, set_id, id),
  check (parent_id <> id),
  foreign key (school_id, set_id) references standard_set (school_id, id),
  foreign key (school_id, set_id, parent_id) references standard (school_id, set_id, id) deferrable initially deferred
);
create index standard_code on standard (school_id, set_id, code);
create unique index standard_source on standard (school_id, set_id, source) where (source is not null);
create index standard_of_parent on standard (school_id, set_id, parent_id);
select kedge_protect('standard', history => '{id}');

alter table assessment
  add column description text,
  add column tags text[] not null default '{}',
  add column year_group_id uuid,
  -- Which of a student's attempts counts.
  add column attempts_count text not null default 'latest' check (attempts_count in ('latest', 'best', 'mean')),
  -- Copies of copies are one series, called as the first of them.
  add column series_id uuid,
  add foreign key (school_id, series_id) references assessment (school_id, id),
  add foreign key (school_id, year_group_id) references year_group (school_id, id);
create index assessment_school_id_series_id_fkey_index on assessment (school_id, series_id);
create index assessment_school_id_year_group_id_fkey_index on assessment (school_id, year_group_id);

-- What a student is given: its documents and the places of the questions on them.
create table form (
  school_id uuid not null,
  assessment_id uuid not null,
  id uuid not null,
  position smallint not null default 1,
  primary key (school_id, assessment_id, id),
  constraint form_position unique (school_id, assessment_id, position) deferrable initially deferred,
  foreign key (school_id, assessment_id) references assessment (school_id, id)
);
select kedge_protect('form', history => '{assessment_id, id}');

create table form_document (
  school_id uuid not null,
  assessment_id uuid not null,
  form_id uuid not null,
  position smallint not null default 1,
  document_id uuid not null,
  primary key (school_id, assessment_id, form_id, position),
  foreign key (school_id, assessment_id, form_id) references form (school_id, assessment_id, id),
  foreign key (school_id, document_id) references document (school_id, id)
);
create index form_document_school_id_document_id_fkey_index on form_document (school_id, document_id);
select kedge_protect('form_document', history => '{assessment_id, form_id, position}');

-- The files a form's document was made from: pictures in their order, or a text. Named with the work that makes it, as
-- long as that is not done.
create table form_source (
  school_id uuid not null,
  assessment_id uuid not null,
  form_id uuid not null,
  position smallint not null,
  document_id uuid not null,
  job_id uuid,
  primary key (school_id, assessment_id, form_id, position),
  foreign key (school_id, assessment_id, form_id) references form (school_id, assessment_id, id),
  foreign key (school_id, document_id) references document (school_id, id)
);
create index form_source_school_id_document_id_fkey_index on form_source (school_id, document_id);
select kedge_protect('form_source', history => '{assessment_id, form_id, position}');

-- One giving of an assessment to some classes.
create table sitting (
  school_id uuid not null,
  assessment_id uuid not null,
  id uuid not null,
  form_id uuid not null,
  given_on date not null,
  -- Who gives it: the owner, or a colleague it was shared with.
  given_by uuid not null,
  version integer not null default 1,
  primary key (school_id, assessment_id, id),
  foreign key (school_id, assessment_id, form_id) references form (school_id, assessment_id, id),
  foreign key (school_id, given_by) references staff_member (school_id, id)
);
create index sitting_school_id_given_by_fkey_index on sitting (school_id, given_by);
create index sitting_school_id_assessment_id_form_id_fkey_index on sitting (school_id, assessment_id, form_id);
create trigger next_version before insert or update on sitting for each row execute function kedge_next_version();
select kedge_protect('sitting', history => '{assessment_id, id}');

-- A class sits an assessment in one sitting at most.
create table sitting_class (
  school_id uuid not null,
  assessment_id uuid not null,
  sitting_id uuid not null,
  class_id uuid not null,
  primary key (school_id, assessment_id, class_id),
  foreign key (school_id, assessment_id, sitting_id) references sitting (school_id, assessment_id, id),
  foreign key (school_id, class_id) references class (school_id, id)
);
create index sitting_class_of_class on sitting_class (school_id, class_id);
create index sitting_class_school_id_assessment_id_sitting_id_fkey_index on sitting_class (school_id, assessment_id, sitting_id);
select kedge_protect('sitting_class', history => '{assessment_id, class_id}');

-- With whom an assessment is shared: a colleague, those who teach a course, a year group's team, or without any of them
-- all teachers of the school. Whoever it is shared with reads its questions and its key.
create table assessment_share (
  school_id uuid not null,
  assessment_id uuid not null,
  id uuid not null,
  staff_id uuid,
  course_id uuid,
  year_group_id uuid,
  may_see_results boolean not null default false,
  may_give boolean not null default false,
  may_edit boolean not null default false,
  primary key (school_id, assessment_id, id),
  constraint assessment_share_once unique nulls not distinct (school_id, assessment_id, staff_id, course_id, year_group_id),
  check (num_nonnulls(staff_id, course_id, year_group_id) <= 1),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, staff_id) references staff_member (school_id, id),
  foreign key (school_id, course_id) references course (school_id, id),
  foreign key (school_id, year_group_id) references year_group (school_id, id)
);
create index assessment_share_school_id_staff_id_fkey_index on assessment_share (school_id, staff_id);
create index assessment_share_school_id_course_id_fkey_index on assessment_share (school_id, course_id);
create index assessment_share_school_id_year_group_id_fkey_index on assessment_share (school_id, year_group_id);
select kedge_protect('assessment_share', history => '{assessment_id, id}');

-- A question without a position is retired: it is asked no longer, and its answers stay.
alter table question
  add column kind text not null default 'one choice'
    check (kind in ('one choice', 'several choices', 'true or false', 'number', 'short text', 'written')),
  -- Why the right answer is right, and what a choice shows of whoever takes it, by its letter.
  add column rationale text,
  add column choice_rationales jsonb not null default '{}',
  alter column position drop not null;
alter table question alter column kind drop default;

create table key_version (
  school_id uuid not null,
  assessment_id uuid not null,
  number integer not null check (number > 0),
  reason text,
  made_by text not null,
  made_at timestamptz not null default kedge_now(),
  primary key (school_id, assessment_id, number),
  foreign key (school_id, assessment_id) references assessment (school_id, id)
);
select kedge_protect('key_version', history => '{assessment_id, number}');

-- The key of a question from one version of the key on, until another; without an end it is the one that holds.
create table question_key (
  school_id uuid not null,
  assessment_id uuid not null,
  question_id uuid not null,
  from_version integer not null,
  until_version integer,
  -- Choices, what is right and what is accepted, as its kind has it.
  content jsonb not null,
  points numeric(6,2) not null check (points >= 0),
  counts text not null default 'keyed' check (counts in ('keyed', 'dropped', 'given')),
  primary key (school_id, assessment_id, question_id, from_version),
  check (until_version > from_version),
  constraint question_key_once exclude using gist (school_id with =, assessment_id with =, question_id with =,
    int4range(from_version, until_version) with &&) deferrable initially deferred,
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id) deferrable initially deferred,
  foreign key (school_id, assessment_id, from_version) references key_version (school_id, assessment_id, number) deferrable initially deferred
);
create index question_key_school_id_assessment_id_from_version_fkey_index on question_key (school_id, assessment_id, from_version);
create unique index question_key_now on question_key (school_id, assessment_id, question_id) where (until_version is null);
select kedge_protect('question_key', history => '{assessment_id, question_id, from_version}');

create table question_standard (
  school_id uuid not null,
  assessment_id uuid not null,
  question_id uuid not null,
  standard_id uuid not null,
  primary key (school_id, assessment_id, question_id, standard_id),
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id) deferrable initially deferred,
  foreign key (school_id, standard_id) references standard (school_id, id)
);
create index question_standard_school_id_standard_id_fkey_index on question_standard (school_id, standard_id);
select kedge_protect('question_standard', history => '{assessment_id, question_id, standard_id}');

-- Where a question stands on the document of a form: the page, and the part of it as shares of its width and height.
create table question_place (
  school_id uuid not null,
  assessment_id uuid not null,
  form_id uuid not null,
  question_id uuid not null,
  page smallint not null check (page > 0),
  x real check (x >= 0 and x < 1),
  y real check (y >= 0 and y < 1),
  width real check (width > 0 and x + width <= 1.0001),
  height real check (height > 0 and y + height <= 1.0001),
  primary key (school_id, assessment_id, form_id, question_id),
  check (num_nulls(x, y, width, height) in (0, 4)),
  foreign key (school_id, assessment_id, form_id) references form (school_id, assessment_id, id) deferrable initially deferred,
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id) deferrable initially deferred
);
create index question_place_school_id_assessment_id_question_id_fkey_index on question_place (school_id, assessment_id, question_id);
select kedge_protect('question_place', history => '{assessment_id, form_id, question_id}');

-- The levels of an assessment, the highest first; each begins at a share of the points or at so many of them. The last
-- has no beginning.
create table assessment_level (
  school_id uuid not null,
  assessment_id uuid not null,
  position smallint not null check (position between 1 and 5),
  name text not null check (name ~ '\S'),
  from_percent numeric(5,2) check (from_percent between 0 and 100),
  from_points numeric(7,2) check (from_points >= 0),
  primary key (school_id, assessment_id, position),
  constraint assessment_level_name_length check (length(name) <= 40),
  check (num_nonnulls(from_percent, from_points) <= 1),
  foreign key (school_id, assessment_id) references assessment (school_id, id)
);
select kedge_protect('assessment_level', history => '{assessment_id, position}');

-- Where a level begins for one learning standard, when it is not where it begins for the whole.
create table standard_threshold (
  school_id uuid not null,
  assessment_id uuid not null,
  standard_id uuid not null,
  position smallint not null,
  from_percent numeric(5,2) check (from_percent between 0 and 100),
  from_points numeric(7,2) check (from_points >= 0),
  primary key (school_id, assessment_id, standard_id, position),
  check (num_nonnulls(from_percent, from_points) = 1),
  foreign key (school_id, assessment_id, position) references assessment_level (school_id, assessment_id, position) deferrable initially deferred,
  foreign key (school_id, standard_id) references standard (school_id, id)
);
create index standard_threshold_school_id_assessment_id_position_fkey_index on standard_threshold (school_id, assessment_id, position);
create index standard_threshold_school_id_standard_id_fkey_index on standard_threshold (school_id, standard_id);
select kedge_protect('standard_threshold', history => '{assessment_id, standard_id, position}');

-- One go of one student. What was typed can be taken away again; the attempt stays, so that its version goes on.
create table attempt (
  school_id uuid not null,
  assessment_id uuid not null,
  student_id uuid not null,
  number smallint not null default 1 check (number > 0),
  state text not null check (state in ('working', 'handed in', 'taken back', 'void')),
  void_reason text,
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, assessment_id, student_id, number),
  check ((state = 'void') = (void_reason is not null)),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index attempt_of_student on attempt (school_id, student_id);
create trigger next_version before insert or update on attempt for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on attempt referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('attempt', history => '{assessment_id, student_id, number}');

-- What was answered, as the question's kind has it. A question left out has no response.
create table response (
  school_id uuid not null,
  assessment_id uuid not null,
  student_id uuid not null,
  attempt smallint not null default 1,
  question_id uuid not null,
  value jsonb not null,
  primary key (school_id, assessment_id, student_id, attempt, question_id),
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id),
  foreign key (school_id, assessment_id, student_id, attempt) references attempt (school_id, assessment_id, student_id, number)
);
create index response_school_id_assessment_id_question_id_fkey_index on response (school_id, assessment_id, question_id);
create index response_of_student on response (school_id, student_id);
select kedge_protect('response', history => '{assessment_id, student_id, attempt, question_id}');

-- What a response is worth, by where the points come from; of several sources the strongest counts.
create table response_points (
  school_id uuid not null,
  assessment_id uuid not null,
  student_id uuid not null,
  attempt smallint not null default 1,
  question_id uuid not null,
  source text not null check (source in ('key', 'rubric', 'hand', 'override')),
  points numeric(6,2) not null check (points >= 0),
  -- The key the points were worked out with.
  key_version integer,
  reason text,
  primary key (school_id, assessment_id, student_id, attempt, question_id, source),
  check ((source = 'key') = (key_version is not null)),
  check ((source <> 'override') or (reason is not null)),
  foreign key (school_id, assessment_id, question_id) references question (school_id, assessment_id, id),
  foreign key (school_id, assessment_id, student_id, attempt) references attempt (school_id, assessment_id, student_id, number),
  foreign key (school_id, assessment_id, question_id, key_version) references question_key (school_id, assessment_id, question_id, from_version) deferrable initially deferred
);
create index response_points_of_key on response_points (school_id, assessment_id, question_id, key_version);
create index response_points_of_student on response_points (school_id, student_id);
select kedge_protect('response_points', history => '{assessment_id, student_id, attempt, question_id, source}');

-- A key that something was scored with is never changed, nor one that another has followed.
create function kedge_keep_keys() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      if (old.content, old.points, old.counts) is not distinct from (new.content, new.points, new.counts) then return new; end if;
      if old.until_version is not null or exists (select 1 from response_points p where p.school_id = old.school_id
        and p.assessment_id = old.assessment_id and p.question_id = old.question_id and p.key_version = old.from_version)
        then raise exception using errcode = 'KE002', message = 'a key that something was scored with is kept'; end if;
      return new;
    end $$;
create trigger keep_keys before update on question_key for each row execute function kedge_keep_keys();
