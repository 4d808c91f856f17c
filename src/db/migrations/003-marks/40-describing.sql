-- What describes an assignment, from when families see it, and where it stands; a word to a score.

alter table assignment
  add column description text not null default '' check (length(description) <= 2000),
  add column tags text[] not null default '{}' check (cardinality(tags) <= 12),
  add column given_on date,
  -- From this day on families see it with its scores; none for never.
  add column shown_from date,
  -- Its place where a gradebook is ordered by hand; else it stands by its due date.
  add column position smallint check (position >= 1);
select kedge_keep_history_of('assignment', '{id}');

-- A word to a score, for those who teach the class.
create table score_note (
  school_id uuid not null,
  assignment_id uuid not null,
  student_id uuid not null,
  note text not null default '' check (length(note) <= 1000),
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, assignment_id, student_id),
  foreign key (school_id, assignment_id) references assignment (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index score_note_of_student on score_note (school_id, student_id);
create trigger next_version before insert or update on score_note for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on score_note referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('score_note', history => '{assignment_id, student_id}');
