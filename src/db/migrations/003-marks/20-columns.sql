-- Columns beside the assignments. Calculated ones: what they do, with which parts, and what a value is called; the parts
-- are rows of their own, so that the database knows what a formula rests on. And those that are entered by hand: one of
-- several choices, such as effort, or a number.

create table mark_column (
  school_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  -- The term whose gradebook shows it; none for all terms of the year.
  term_id uuid,
  name text not null check (name ~ '\S' and length(name) <= 60),
  does text not null check (does in ('mean', 'sum', 'best', 'latest', 'count', 'choice', 'number')),
  take smallint check (take between 1 and 40),
  decimals smallint not null default 1 check (decimals between 0 and 3),
  position smallint not null default 1,
  version integer not null default 1,
  primary key (school_id, id),
  constraint mark_column_takes check ((take is not null) = (does in ('best', 'latest'))),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, class_id, term_id) references gradebook (school_id, class_id, term_id)
);
create index mark_column_of_class on mark_column (school_id, class_id, term_id);
create trigger next_version before insert or update on mark_column for each row execute function kedge_next_version();
select kedge_protect('mark_column', history => '{id}');

create table mark_column_part (
  school_id uuid not null,
  column_id uuid not null,
  position smallint not null,
  weight numeric(6,2) not null default 1 check (weight >= 0),
  assignment_id uuid,
  category_id uuid,
  marks_term_id uuid,
  period_id uuid,
  part_column_id uuid,
  primary key (school_id, column_id, position),
  constraint mark_column_part_one check (num_nonnulls(assignment_id, category_id, marks_term_id, part_column_id) = 1),
  constraint mark_column_part_period check (period_id is null or marks_term_id is not null),
  constraint mark_column_part_itself check (part_column_id <> column_id),
  foreign key (school_id, column_id) references mark_column (school_id, id),
  foreign key (school_id, assignment_id) references assignment (school_id, id),
  foreign key (school_id, category_id) references category (school_id, id),
  foreign key (school_id, marks_term_id) references term (school_id, id),
  foreign key (school_id, period_id) references term_period (school_id, id),
  foreign key (school_id, part_column_id) references mark_column (school_id, id)
);
create index mark_column_part_of_assignment on mark_column_part (school_id, assignment_id);
create index mark_column_part_of_category on mark_column_part (school_id, category_id);
create index mark_column_part_of_term on mark_column_part (school_id, marks_term_id);
create index mark_column_part_of_period on mark_column_part (school_id, period_id);
create index mark_column_part_of_column on mark_column_part (school_id, part_column_id);
select kedge_protect('mark_column_part', history => '{column_id, position}');

create table mark_column_level (
  school_id uuid not null,
  column_id uuid not null,
  position smallint not null,
  name text not null check (name ~ '\S' and length(name) <= 40),
  -- The lowest value that has it; of a choice, what it counts as, if anything.
  from_value numeric(7,2) check (from_value >= 0),
  primary key (school_id, column_id, position),
  foreign key (school_id, column_id) references mark_column (school_id, id)
);
select kedge_protect('mark_column_level', history => '{column_id, position}');

create table column_entry (
  school_id uuid not null,
  column_id uuid not null,
  student_id uuid not null,
  -- The name of a choice, or a decimal; none where it was emptied.
  value text check (value ~ '\S' and length(value) <= 40),
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, column_id, student_id),
  foreign key (school_id, column_id) references mark_column (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index column_entry_of_student on column_entry (school_id, student_id);
create trigger next_version before insert or update on column_entry for each row execute function kedge_next_version();
create trigger refuse_merged_added after insert on column_entry referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('column_entry', history => '{column_id, student_id}');
