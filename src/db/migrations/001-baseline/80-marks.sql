-- Gradebooks: settings, weighted categories, assignments and scores.

create table gradebook (
  school_id uuid not null,
  class_id uuid not null,
  term_id uuid not null,
  decimals smallint not null default 1 check ((decimals >= 0) and (decimals <= 3)),
  empty_counts text not null default 'nothing' check (empty_counts in ('nothing', 'zero after due')),
  missing_counts text not null default 'zero' check (missing_counts in ('nothing', 'zero')),
  version integer not null default 1,
  primary key (school_id, class_id, term_id),
  foreign key (school_id, class_id, term_id) references class_term (school_id, class_id, term_id)
);
create trigger next_version before insert or update on gradebook for each row execute function kedge_next_version();
select kedge_protect('gradebook', history => '{class_id, term_id}');

create table category (
  school_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  term_id uuid not null,
  name text not null check (name ~ '\S'),
  weight numeric(6,2) not null check (weight >= 0),
  drop_lowest smallint not null default 0 check (drop_lowest >= 0),
  position smallint not null,
  primary key (school_id, id),
  unique (school_id, class_id, term_id, id),
  constraint category_drop_lowest_most check (drop_lowest <= 20),
  constraint category_name_length check (length(name) <= 60),
  foreign key (school_id, class_id, term_id) references gradebook (school_id, class_id, term_id)
);
select kedge_protect('category', history => '{id}');

create table assignment (
  school_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  term_id uuid not null,
  category_id uuid not null,
  name text not null check (name ~ '\S'),
  max_points numeric(7,2) not null check (max_points > 0),
  due_on date not null,
  assessment_id uuid,
  counts boolean not null default true,
  version integer not null default 1,
  primary key (school_id, id),
  constraint assignment_name_length check (length(name) <= 60),
  foreign key (school_id, assessment_id) references assessment (school_id, id),
  foreign key (school_id, class_id, term_id, category_id) references category (school_id, class_id, term_id, id)
);
create unique index assignment_of_assessment on assignment (school_id, assessment_id, class_id) where (assessment_id is not null);
create index assignment_of_class on assignment (school_id, class_id, term_id);
create index assignment_school_id_assessment_id_fkey_index on assignment (school_id, assessment_id);
create index assignment_school_id_class_id_term_id_category_id_fkey_index on assignment (school_id, class_id, term_id, category_id);
create trigger next_version before insert or update on assignment for each row execute function kedge_next_version();
select kedge_protect('assignment', history => '{id}');

create table score (
  school_id uuid not null,
  assignment_id uuid not null,
  student_id uuid not null,
  points numeric(7,2) check (points >= 0),
  standing text check (standing in ('missing', 'excused')),
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, assignment_id, student_id),
  check ((points is null) or (standing is null)),
  foreign key (school_id, assignment_id) references assignment (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index score_of_student on score (school_id, student_id);
create trigger next_version before insert or update on score for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on score referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('score', history => '{assignment_id, student_id}');
