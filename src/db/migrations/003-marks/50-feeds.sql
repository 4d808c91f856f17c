-- The lines of a report, and which column of a class's gradebook fills each of them.

create table report_line (
  school_id uuid not null,
  id uuid not null,
  round_id uuid not null,
  name text not null check (name ~ '\S' and length(name) <= 60),
  -- A number with a grade, or a word.
  kind text not null check (kind in ('mark', 'word')),
  position smallint not null,
  primary key (school_id, id),
  unique (school_id, round_id, id),
  constraint report_line_once unique (school_id, round_id, name),
  foreign key (school_id, round_id) references report_round (school_id, id)
);
select kedge_protect('report_line', history => '{id}');

create table feed (
  school_id uuid not null,
  round_id uuid not null,
  class_id uuid not null,
  line_id uuid not null,
  -- None for the mark of the round's term.
  column_id uuid,
  version integer not null default 1,
  primary key (school_id, round_id, class_id, line_id),
  foreign key (school_id, round_id, class_id) references class_entries (school_id, round_id, class_id),
  foreign key (school_id, round_id, line_id) references report_line (school_id, round_id, id),
  foreign key (school_id, column_id) references mark_column (school_id, id)
);
create index feed_of_line on feed (school_id, round_id, line_id);
create index feed_of_column on feed (school_id, column_id);
create trigger next_version before insert or update on feed for each row execute function kedge_next_version();
select kedge_protect('feed', history => '{round_id, class_id, line_id}');

-- What was there, school by school: row-level security holds for the tables' owner too.
do $$
  declare
    school_to_move uuid;
  begin
    for school_to_move in select s.id from school s order by s.id loop
      perform set_config('kedge.school', school_to_move::text, true), set_config('kedge.history', 'off', true);

      -- Rounds as they were: one line, filled by the mark of the term.
      insert into report_line (school_id, id, round_id, name, kind, position)
        select school_id, gen_random_uuid(), id, 'Mark', 'mark', 1 from report_round;
      insert into feed (school_id, round_id, class_id, line_id)
        select e.school_id, e.round_id, e.class_id, l.id from class_entries e join report_line l on l.school_id = e.school_id and l.round_id = e.round_id;

      -- Marks that were handed in are confirmed marks: in the state of the class and term, with the values that were kept.
      insert into class_marks (school_id, id, class_id, term_id, state, changed_by, changed_at)
        select distinct on (e.school_id, e.class_id, r.term_id) e.school_id, gen_random_uuid(), e.class_id, r.term_id,
          'confirmed', coalesce(e.changed_by, 'Kedge'), coalesce(e.changed_at, kedge_now())
        from class_entries e join report_round r on r.school_id = e.school_id and r.id = e.round_id
        where e.state in ('handed in', 'checked', 'released')
        order by e.school_id, e.class_id, r.term_id, e.changed_at desc nulls last;
      insert into held_mark (school_id, marks_id, student_id, source, mark, grade, explanation, rules_version)
        select distinct on (m.school_id, m.id, x.student_id) m.school_id, m.id, x.student_id, 'mark', x.handed_mark, x.handed_grade, '{"kind": "before"}', 0
        from class_marks m join report_round r on r.school_id = m.school_id and r.term_id = m.term_id
        join class_entries e on e.school_id = r.school_id and e.round_id = r.id and e.class_id = m.class_id and e.state in ('handed in', 'checked', 'released')
        join report_entry x on x.school_id = e.school_id and x.round_id = e.round_id and x.class_id = e.class_id
        order by m.school_id, m.id, x.student_id, e.changed_at desc nulls last;
    end loop;
    perform set_config('kedge.school', '', true), set_config('kedge.history', '', true);
  end $$;
alter table report_entry drop column handed_mark, drop column handed_grade;
select kedge_keep_history_of('report_entry', '{round_id, class_id, student_id}');

-- What a report shows stays as it was checked: held values go only when the entries have gone back to whoever writes
-- them, and change only until the entries are checked.
create function kedge_refuse_reported() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      ids uuid[];
      own record;
    begin
      if kedge_is_merging() then return null; end if;
      if tg_op = 'DELETE' then ids := array(select distinct marks_id from was);
      elsif tg_op = 'INSERT' then ids := array(select distinct marks_id from became);
      else ids := array(select distinct b.marks_id from became b join was w using (school_id, marks_id, student_id, source)
        where (b.mark, b.grade) is distinct from (w.mark, w.grade));
      end if;
      select jsonb_build_object('className', c.name, 'round', r.name, 'state', e.state) as about into own
        from class_marks m
        join report_round r on r.school_id = m.school_id and r.term_id = m.term_id
        join class_entries e on e.school_id = r.school_id and e.round_id = r.id and e.class_id = m.class_id
        join class c on c.school_id = m.school_id and c.id = m.class_id
        where m.school_id = kedge_school() and m.id = any (ids) and m.period_id is null
          and (e.state in ('checked', 'released') or tg_op = 'DELETE' and e.state = 'handed in')
        limit 1 for share of e;
      if own is not null then raise exception using errcode = 'KE004', message = own.about::text; end if;
      return null;
    end $$;
create trigger refuse_reported_added after insert on held_mark referencing new table as became for each statement execute function kedge_refuse_reported();
create trigger refuse_reported_changed after update on held_mark referencing old table as was new table as became for each statement execute function kedge_refuse_reported();
create trigger refuse_reported_removed after delete on held_mark referencing old table as was for each statement execute function kedge_refuse_reported();
