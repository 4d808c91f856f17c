-- Report rounds, class entries on their way from writing to release, and the cards made from them.

create table report_round (
  school_id uuid not null,
  id uuid not null,
  year_id uuid not null,
  term_id uuid not null,
  name text not null,
  due_on date not null,
  comment_limit smallint not null default 600 check ((comment_limit >= 50) and (comment_limit <= 4000)),
  primary key (school_id, id),
  foreign key (school_id, term_id) references term (school_id, id),
  foreign key (school_id, year_id) references academic_year (school_id, id)
);
create index report_round_school_id_term_id_fkey_index on report_round (school_id, term_id);
create index report_round_school_id_year_id_fkey_index on report_round (school_id, year_id);
select kedge_protect('report_round', history => '{id}');

create table report_round_year_group (
  school_id uuid not null,
  round_id uuid not null,
  year_group_id uuid not null,
  primary key (school_id, round_id, year_group_id),
  foreign key (school_id, round_id) references report_round (school_id, id),
  foreign key (school_id, year_group_id) references year_group (school_id, id)
);
create index report_round_year_group_school_id_year_group_id_fkey_index on report_round_year_group (school_id, year_group_id);
select kedge_protect('report_round_year_group', history => '{round_id, year_group_id}');

create table class_entries (
  school_id uuid not null,
  round_id uuid not null,
  class_id uuid not null,
  state text not null default 'writing' check (state in ('writing', 'handed in', 'sent back', 'checked', 'released')),
  remark text check (length(remark) <= 1000),
  changed_by text,
  changed_at timestamptz,
  version integer not null default 1,
  primary key (school_id, round_id, class_id),
  check ((state <> 'sent back') or (remark ~ '\S')),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, round_id) references report_round (school_id, id)
);
create index class_entries_school_id_class_id_fkey_index on class_entries (school_id, class_id);
create trigger next_version before insert or update on class_entries for each row execute function kedge_next_version();
select kedge_protect('class_entries', history => '{round_id, class_id}');

create table report_entry (
  school_id uuid not null,
  round_id uuid not null,
  class_id uuid not null,
  student_id uuid not null,
  effort text check (effort in ('excellent', 'good', 'uneven', 'low')),
  comment text not null default '',
  handed_mark text,
  handed_grade text,
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, round_id, class_id, student_id),
  constraint report_entry_comment_length check (length(comment) <= 4000),
  foreign key (school_id, round_id, class_id) references class_entries (school_id, round_id, class_id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index report_entry_of_student on report_entry (school_id, student_id, round_id);
create trigger next_version before insert or update on report_entry for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on report_entry referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('report_entry', history => '{round_id, class_id, student_id}');

create table report_card (
  school_id uuid not null,
  id uuid not null,
  round_id uuid not null,
  student_id uuid not null,
  issue smallint not null,
  contents jsonb not null,
  left_out text[] not null,
  document_id uuid not null,
  released_by text not null,
  released_at timestamptz not null default kedge_now(),
  replaced_at timestamptz,
  primary key (school_id, id),
  unique (school_id, round_id, student_id, issue),
  foreign key (school_id, document_id) references document (school_id, id),
  foreign key (school_id, round_id) references report_round (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index report_card_of_student on report_card (school_id, student_id);
create index report_card_school_id_document_id_fkey_index on report_card (school_id, document_id);
select kedge_protect('report_card', may => 'select, insert, update', history => '{id}');
