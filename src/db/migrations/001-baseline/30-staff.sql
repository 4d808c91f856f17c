-- Members of staff and, from a day to a day, whose homeroom and class they look after.

create table staff_member (
  school_id uuid not null references school,
  id uuid not null,
  given_name text not null,
  family_name text not null,
  sort_name text not null,
  email text,
  phone text,
  version integer not null default 1,
  field_versions jsonb not null default '{}'::jsonb,
  email_for_guardians boolean not null default false,
  last_day date,
  primary key (school_id, id)
);
create trigger next_version before insert or update on staff_member for each row execute function kedge_next_version();
create trigger note_fields before update on staff_member for each row execute function kedge_note_fields();
select kedge_protect('staff_member', history => '{id}');

create table homeroom_teacher (
  school_id uuid not null,
  homeroom_id uuid not null,
  staff_id uuid not null,
  period daterange not null,
  primary key (school_id, homeroom_id, staff_id, period),
  constraint homeroom_teacher_school_id_homeroom_id_staff_id_period_excl exclude using gist (school_id with =, homeroom_id with =, staff_id with =, period with &&),
  foreign key (school_id, homeroom_id) references homeroom (school_id, id),
  foreign key (school_id, staff_id) references staff_member (school_id, id)
);
create index homeroom_teacher_of on homeroom_teacher (school_id, staff_id);
create trigger tell_account after insert or update or delete on homeroom_teacher for each row execute function kedge_tell_account();
select kedge_protect('homeroom_teacher', history => '{homeroom_id, staff_id, period}');

create table class_teacher (
  school_id uuid not null,
  class_id uuid not null,
  staff_id uuid not null,
  period daterange not null,
  primary key (school_id, class_id, staff_id, period),
  constraint class_teacher_school_id_class_id_staff_id_period_excl exclude using gist (school_id with =, class_id with =, staff_id with =, period with &&),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, staff_id) references staff_member (school_id, id)
);
create index class_teacher_of on class_teacher (school_id, staff_id);
create trigger tell_account after insert or update or delete on class_teacher for each row execute function kedge_tell_account();
select kedge_protect('class_teacher', history => '{class_id, staff_id, period}');
