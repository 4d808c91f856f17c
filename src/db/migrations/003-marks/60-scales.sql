-- Scales that change: grades hold from a day until the next day that has others. Without grades there is only the percent.

create table scale_change (
  school_id uuid not null,
  scale_id uuid not null,
  -- -infinity for what holds from the beginning.
  starts_on date not null,
  primary key (school_id, scale_id, starts_on),
  foreign key (school_id, scale_id) references grading_scale (school_id, id)
);
select kedge_protect('scale_change', history => '{scale_id, starts_on}');

alter table grading_band add column starts_on date not null default '-infinity';
do $$
  declare
    school_to_move uuid;
  begin
    for school_to_move in select s.id from school s order by s.id loop
      perform set_config('kedge.school', school_to_move::text, true), set_config('kedge.history', 'off', true);
      insert into scale_change (school_id, scale_id, starts_on) select school_id, id, '-infinity' from grading_scale;
    end loop;
    perform set_config('kedge.school', '', true), set_config('kedge.history', '', true);
  end $$;
alter table grading_band
  drop constraint grading_band_pkey,
  drop constraint grading_band_school_id_scale_id_from_percent_key,
  drop constraint grading_band_school_id_scale_id_fkey,
  add primary key (school_id, scale_id, starts_on, grade),
  add constraint grading_band_from_once unique (school_id, scale_id, starts_on, from_percent),
  add foreign key (school_id, scale_id, starts_on) references scale_change (school_id, scale_id, starts_on);
select kedge_keep_history_of('grading_band', '{scale_id, starts_on, grade}');

-- From which day the grades come that hold for marks of a term: those in use on its last day.
create function kedge_scale_day(scale uuid, term uuid) returns date
  language sql stable
  set search_path = 'public', 'pg_temp'
  as $$
    select max(c.starts_on) from scale_change c join term t on t.school_id = c.school_id and t.id = term
    where c.scale_id = scale and c.starts_on <= t.last_day
  $$;
