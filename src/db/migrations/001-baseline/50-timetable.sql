-- Timetables and their lessons. A lesson stands there from a day to a day, so that what is changed today leaves the
-- registers of yesterday as they are.

create table timetable (
  school_id uuid not null references school,
  id uuid not null,
  name text not null check ((length(name) >= 1) and (length(name) <= 60)),
  first_day date not null,
  last_day date,
  cycle text not null check (cycle in ('week', 'two weeks', 'days')),
  cycle_days smallint not null check ((cycle_days >= 1) and (cycle_days <= 20)),
  version integer not null default 1,
  primary key (school_id, id),
  constraint timetable_days_apart exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&) deferrable initially deferred,
  check (last_day >= first_day)
);
create trigger next_version before insert or update on timetable for each row execute function kedge_next_version();
select kedge_protect('timetable', history => '{id}');

create table timetable_period (
  school_id uuid not null,
  timetable_id uuid not null,
  number smallint not null check ((number >= 1) and (number <= 20)),
  starts time without time zone not null,
  ends time without time zone not null,
  primary key (school_id, timetable_id, number),
  check (ends > starts),
  foreign key (school_id, timetable_id) references timetable (school_id, id)
);
select kedge_protect('timetable_period', history => '{timetable_id, number}');

create table lesson (
  school_id uuid not null,
  id uuid not null,
  timetable_id uuid not null,
  cycle_day smallint not null check ((cycle_day >= 1) and (cycle_day <= 20)),
  period smallint not null,
  class_id uuid not null,
  room_id uuid,
  version integer not null default 1,
  days daterange not null default '(,)'::daterange,
  primary key (school_id, id),
  constraint lessons_apart exclude using gist (school_id with =, timetable_id with =, cycle_day with =, period with =, class_id with =, days with &&) deferrable,
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, room_id) references room (school_id, id),
  foreign key (school_id, timetable_id, period) references timetable_period (school_id, timetable_id, number)
);
create index lesson_in_room on lesson (school_id, room_id);
create index lesson_of_class on lesson (school_id, class_id);
create index lesson_of_period on lesson (school_id, timetable_id, period);
create index lesson_of_slot on lesson (school_id, timetable_id, cycle_day, period);
create trigger next_version before insert or update on lesson for each row execute function kedge_next_version();
select kedge_protect('lesson', history => '{id}');

create table lesson_change (
  school_id uuid not null,
  class_id uuid not null,
  on_date date not null,
  period smallint not null check ((period >= 1) and (period <= 20)),
  cancelled boolean not null default false,
  staff_id uuid,
  room_id uuid,
  note text check (length(note) <= 200),
  version integer not null default 1,
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  primary key (school_id, class_id, on_date, period),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, room_id) references room (school_id, id),
  foreign key (school_id, staff_id) references staff_member (school_id, id)
);
create index lesson_change_cover on lesson_change (school_id, staff_id);
create index lesson_change_on_day on lesson_change (school_id, on_date);
create index lesson_change_room on lesson_change (school_id, room_id);
create trigger next_version before insert or update on lesson_change for each row execute function kedge_next_version();
select kedge_protect('lesson_change', history => '{class_id, on_date, period}');
