-- Marking periods of a class and what is held of them: one state for a class and a part of the year, values with how
-- they were worked out, and what stops changes under what is closed.

create table class_marks (
  school_id uuid not null,
  id uuid not null,
  class_id uuid not null,
  -- None for the whole year.
  term_id uuid,
  -- None for the whole term.
  period_id uuid,
  state text not null check (state in ('open', 'confirmed', 'closed')),
  -- Why it was reopened.
  reason text check (reason ~ '\S' and length(reason) <= 1000),
  changed_by text not null,
  changed_at timestamptz not null default kedge_now(),
  version integer not null default 1,
  primary key (school_id, id),
  constraint class_marks_once unique nulls not distinct (school_id, class_id, term_id, period_id),
  constraint class_marks_period check (period_id is null or term_id is not null),
  foreign key (school_id, class_id) references class (school_id, id),
  foreign key (school_id, class_id, term_id) references class_term (school_id, class_id, term_id),
  foreign key (school_id, period_id) references term_period (school_id, id)
);
create index class_marks_of_term on class_marks (school_id, class_id, term_id);
create index class_marks_of_period on class_marks (school_id, period_id);
create trigger next_version before insert or update on class_marks for each row execute function kedge_next_version();
select kedge_protect('class_marks', history => '{id}');

create table held_mark (
  school_id uuid not null,
  marks_id uuid not null,
  student_id uuid not null,
  -- The column it is of, or 'mark' for the mark of the period itself.
  source text not null,
  column_id uuid,
  -- The exact value as a fraction; none where there was nothing yet.
  num numeric,
  den numeric check (den > 0),
  mark text check (length(mark) <= 60),
  grade text check (length(grade) <= 60),
  -- How it was worked out, as it was shown, with the version of the gradebook's rules that it rests on.
  explanation jsonb not null,
  rules_version integer not null,
  primary key (school_id, marks_id, student_id, source),
  constraint held_mark_source check (source = coalesce(column_id::text, 'mark')),
  constraint held_mark_exact check ((num is null) = (den is null)),
  foreign key (school_id, marks_id) references class_marks (school_id, id),
  foreign key (school_id, student_id) references student (school_id, id),
  foreign key (school_id, column_id) references mark_column (school_id, id)
);
create index held_mark_of_student on held_mark (school_id, student_id);
create index held_mark_of_column on held_mark (school_id, column_id);
create trigger refuse_merged_added after insert on held_mark referencing new table as became for each statement execute function kedge_refuse_merged();
select kedge_protect('held_mark', history => '{marks_id, student_id, source}');

-- Whether two records are put together just now, or taken apart again: that moves what was there before.
create function kedge_is_merging() returns boolean
  language sql stable
  as $$ select current_setting('kedge.command', true) = 'record.merge' or coalesce((select r.command = 'record.merge' from command_run r
    where r.school_id = kedge_school() and r.id = nullif(current_setting('kedge.undoes', true), '')::uuid), false) $$;
grant execute on function kedge_is_merging() to kedge_app;

-- Refuses a write of classes and days under what is closed, and names the class, the part of the year and who closed it.
-- Each day is one of a term; without a day the whole term is meant, without a term the whole year. Whoever closes waits
-- for those who write, and they for them.
create function kedge_refuse_closed(classes uuid[], terms uuid[], days date[]) returns void
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      own record;
    begin
      if kedge_is_merging() then return; end if;
      perform pg_advisory_xact_lock_shared(hashtextextended('marks ' || c, 3))
        from (select distinct unnest(classes)::text as c order by 1) every_class;
      select jsonb_build_object('className', c.name, 'period', coalesce(p.name, t.name, y.name), 'by', m.changed_by) as about into own
        from (select distinct * from unnest(classes, terms, days) w(class_id, term_id, day)) w
        join class_marks m on m.school_id = kedge_school() and m.class_id = w.class_id and m.state <> 'open'
        join class c on c.school_id = m.school_id and c.id = m.class_id
        join academic_year y on y.school_id = c.school_id and y.id = c.year_id
        left join term t on t.school_id = m.school_id and t.id = m.term_id
        left join term_period p on p.school_id = m.school_id and p.id = m.period_id
        where m.state = 'closed' and (m.term_id is null or m.term_id = w.term_id
          and (m.period_id is null or w.day is null or w.day between p.first_day and p.last_day))
        order by m.period_id nulls first limit 1 for share of m;
      if own is not null then raise exception using errcode = 'KE003', message = own.about::text; end if;
    end $$;

create function kedge_refuse_closed_scores() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      ids uuid[];
    begin
      if tg_op = 'INSERT' then ids := array(select distinct assignment_id from became where points is not null or standing is not null);
      elsif tg_op = 'DELETE' then ids := array(select distinct assignment_id from was where points is not null or standing is not null);
      else ids := array(select distinct b.assignment_id from became b join was w using (school_id, assignment_id, student_id)
        where (b.points, b.standing, b.late) is distinct from (w.points, w.standing, w.late));
      end if;
      perform kedge_refuse_closed(array_agg(a.class_id), array_agg(a.term_id), array_agg(a.due_on))
        from assignment a where a.school_id = kedge_school() and a.id = any (ids) having count(*) > 0;
      return null;
    end $$;
create trigger refuse_closed_added after insert on score referencing new table as became for each statement execute function kedge_refuse_closed_scores();
create trigger refuse_closed_changed after update on score referencing old table as was new table as became for each statement execute function kedge_refuse_closed_scores();
create trigger refuse_closed_removed after delete on score referencing old table as was for each statement execute function kedge_refuse_closed_scores();

create function kedge_refuse_closed_assignments() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      -- What only describes an assignment is no mark.
      if tg_op = 'UPDATE' then
        perform kedge_refuse_closed(array_agg(x.class_id), array_agg(x.term_id), array_agg(x.due_on)) from (
          select unnest(array[b.class_id, w.class_id]) as class_id, unnest(array[b.term_id, w.term_id]) as term_id, unnest(array[b.due_on, w.due_on]) as due_on
          from became b join was w using (school_id, id)
          where (b.category_id, b.max_points, b.due_on, b.counts, b.extra, b.assessment_id, b.standard_id, b.scaled)
            is distinct from (w.category_id, w.max_points, w.due_on, w.counts, w.extra, w.assessment_id, w.standard_id, w.scaled)) x having count(*) > 0;
      elsif tg_op = 'INSERT' then
        perform kedge_refuse_closed(array_agg(class_id), array_agg(term_id), array_agg(due_on)) from became having count(*) > 0;
      else
        perform kedge_refuse_closed(array_agg(class_id), array_agg(term_id), array_agg(due_on)) from was having count(*) > 0;
      end if;
      return null;
    end $$;
create trigger refuse_closed_added after insert on assignment referencing new table as became for each statement execute function kedge_refuse_closed_assignments();
create trigger refuse_closed_changed after update on assignment referencing old table as was new table as became for each statement execute function kedge_refuse_closed_assignments();
create trigger refuse_closed_removed after delete on assignment referencing old table as was for each statement execute function kedge_refuse_closed_assignments();

-- Rules, categories and columns hold for a whole term, or for the whole year.
create function kedge_refuse_closed_rules() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      if tg_op = 'DELETE' then
        perform kedge_refuse_closed(array_agg(class_id), array_agg(term_id), array_agg(null::date)) from was having count(*) > 0;
      else
        perform kedge_refuse_closed(array_agg(class_id), array_agg(term_id), array_agg(null::date)) from became having count(*) > 0;
      end if;
      return null;
    end $$;
create trigger refuse_closed_added after insert on category referencing new table as became for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_changed after update on category referencing old table as was new table as became for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_removed after delete on category referencing old table as was for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_changed after update on gradebook referencing old table as was new table as became for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_added after insert on mark_column referencing new table as became for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_changed after update on mark_column referencing old table as was new table as became for each statement execute function kedge_refuse_closed_rules();
create trigger refuse_closed_removed after delete on mark_column referencing old table as was for each statement execute function kedge_refuse_closed_rules();

-- What a column consists of: parts, levels, and what is entered in it.
create function kedge_refuse_closed_columns() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      ids uuid[];
    begin
      if tg_op = 'DELETE' then ids := array(select distinct column_id from was);
      else ids := array(select distinct column_id from became);
      end if;
      perform kedge_refuse_closed(array_agg(c.class_id), array_agg(c.term_id), array_agg(null::date))
        from mark_column c where c.school_id = kedge_school() and c.id = any (ids) having count(*) > 0;
      return null;
    end $$;
do $$
  declare
    name text;
  begin
    foreach name in array array['mark_column_part', 'mark_column_level', 'column_entry'] loop
      execute format('create trigger refuse_closed_added after insert on %s referencing new table as became for each statement execute function kedge_refuse_closed_columns()', name);
      execute format('create trigger refuse_closed_changed after update on %s referencing new table as became for each statement execute function kedge_refuse_closed_columns()', name);
      execute format('create trigger refuse_closed_removed after delete on %s referencing old table as was for each statement execute function kedge_refuse_closed_columns()', name);
    end loop;
  end $$;
