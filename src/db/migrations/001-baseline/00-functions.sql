-- What every table stands on. Column names of the schema "auth" are the sign-in package's.
create extension if not exists btree_gist with schema public;
create collation natural_order (provider = icu, locale = 'en-u-kn-true');
create schema auth;
grant usage on schema auth to kedge_app;
-- What stands for services outside while a demo or a test runs.
create schema stand_in;
grant usage on schema stand_in to kedge_app;
-- A version is drawn by the database at every write, so that no writer can forget it and none comes twice.
create sequence kedge_version as integer cycle;
grant usage on sequence kedge_version to kedge_app;

create function kedge_school() returns uuid
  language sql stable parallel safe
  as $$ select nullif(current_setting('kedge.school', true), '')::uuid $$;

create function kedge_now() returns timestamptz
  language sql stable
  as $$ select coalesce(nullif(current_setting('kedge.now', true), '')::timestamptz, clock_timestamp()) $$;

-- Texts are looked for without regard to case and accents.
create function kedge_plain(t text) returns text
  language sql immutable parallel safe
  return case when octet_length(t) = length(t) then lower(t)
    else lower(regexp_replace(normalize(t, nfkd), '[\u0300-\u036f]', '', 'g')) end;
grant execute on function kedge_plain(t text) to kedge_app;

create function kedge_is_time_zone(zone text) returns boolean
  language sql stable
  as $$ select exists (select 1 from pg_timezone_names where name = zone) $$;

create function kedge_next_version() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin new.version := nextval('kedge_version'); return new; end $$;

-- Who an account is at a school, answered in one statement: each request asks it before anything else. Runs with the
-- caller's rights; what it sets for row-level security lasts as long as the transaction.
create function kedge_actor(account text, at_school uuid) returns table(username text, school_id uuid, school_name text, time_zone text, name text, roles text[], staff_id uuid, guardian_id uuid, student_id uuid)
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    #variable_conflict use_column
    declare own record;
    begin
      perform set_config('kedge.account', account, true);
      perform set_config('kedge.school', coalesce(at_school::text, ''), true);
      for own in
        select m.school_id, array_agg(m.role) as roles, min(m.name) as name,
          (array_agg(m.person_id) filter (where m.role not in ('guardian', 'student')))[1] as staff_id,
          (array_agg(m.person_id) filter (where m.role = 'guardian'))[1] as guardian_id,
          (array_agg(m.person_id) filter (where m.role = 'student'))[1] as student_id
        from membership m where m.account_id = account and m.active and (at_school is null or m.school_id = at_school)
        group by m.school_id order by m.school_id
      loop
        perform set_config('kedge.school', own.school_id::text, true);
        return query select coalesce(u.username, u.email), own.school_id, s.name, s.time_zone, own.name, own.roles, own.staff_id, own.guardian_id, own.student_id
          from school s join auth."user" u on u.id = account where s.id = own.school_id;
      end loop;
    end $$;
revoke all on function kedge_actor(account text, at_school uuid) from public;
grant execute on function kedge_actor(account text, at_school uuid) to kedge_app;

-- The application may ask for work to be done; only the worker, signed in as the owner, sees the queue.
create function kedge_enqueue(school uuid, task text, subject uuid) returns void
  language plpgsql security definer
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      if school is distinct from kedge_school() then raise exception 'work belongs to the school it is asked in'; end if;
      if task not in ('run-job', 'send-mail') then raise exception 'there is no task %', task; end if;
      -- A mail is tried for about four days, with growing pauses.
      perform graphile_worker.add_job(task, json_build_object('schoolId', school, 'id', subject), job_key => subject::text,
        max_attempts => case task when 'send-mail' then 26 else 8 end);
    end $$;
revoke all on function kedge_enqueue(school uuid, task text, subject uuid) from public;
grant execute on function kedge_enqueue(school uuid, task text, subject uuid) to kedge_app;

-- Whether an account was ever made a member of another school, also where it is not active there now.
create function kedge_is_member_elsewhere(account text, here uuid) returns boolean
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      before constant text := current_setting('kedge.account', true);
      found boolean;
    begin
      perform set_config('kedge.account', account, true);
      found := exists (select 1 from membership m where m.account_id = account and m.school_id <> here);
      perform set_config('kedge.account', coalesce(before, ''), true);
      return found;
    end $$;
revoke all on function kedge_is_member_elsewhere(account text, here uuid) from public;
grant execute on function kedge_is_member_elsewhere(account text, here uuid) to kedge_app;

-- The columns that no history keeps: they are drawn by the database, or say only who wrote a row and where.
create function kedge_unkept() returns text[]
  language sql immutable parallel safe
  as $$ select array['version', 'changed_at', 'changed_by', 'school_id', 'field_versions', 'roll_version', 'plain_name', 'part'] $$;

-- How a table gets its history: a function of its own, in which its columns are written out, and three triggers, since
-- each sees what its kind of statement has changed. Called again when the table has got other columns. Beside it: nothing
-- is added to a record that was merged into another.
--
-- The function runs with the rights of the tables' owner: the application can add to the history only by changing data.
-- It is one statement for all rows that a statement has changed. Both transition tables hold the rows of an update in
-- the order in which it was done, so that a row finds what it was even where its key has changed. Plans are kept from
-- when few rows had changed; a loop within a loop would never end with many. A temporary table is found before all others
-- unless pg_temp is named last. Loading a school is no change to it; only the owner may load.
create function kedge_keep_history_of(name regclass, keys text[]) returns void
  language plpgsql
  as $kedge$
    declare
      noise constant text[] := kedge_unkept();
      own constant text := (select relname from pg_class where oid = name);
      columns constant text[] := (select array_agg(attname order by attnum) from pg_attribute
        where attrelid = name and attnum > 0 and not attisdropped and attname <> all (noise));
      key_of constant text := (select format('jsonb_build_object(%s)', string_agg(format('%L, t.%I', k, k), ', ')) from unnest(keys) k);
      student constant text := case when own = 'student' then 't.id' when 'student_id' = any (columns) then 't.student_id' else 'null::uuid' end;
      -- What a column was and has become, where it has changed.
      was constant text := (select string_agg(format('case when o.%1$I is distinct from t.%1$I then jsonb_build_object(%1$L, o.%1$I) else ''{}'' end', c), ' || ') from unnest(columns) c);
      became constant text := (select string_agg(format('case when o.%1$I is distinct from t.%1$I then jsonb_build_object(%1$L, t.%1$I) else ''{}'' end', c), ' || ') from unnest(columns) c);
      changed constant text := (select string_agg(format('o.%1$I is distinct from t.%1$I', c), ' or ') from unnest(columns) c);
      quoted constant text := (select string_agg(quote_literal(k), ', ') from unnest(keys) k);
    begin
      execute format($function$
        create or replace function kedge_keep_history_%1$s() returns trigger
          language plpgsql security definer
          set search_path = public, pg_temp
          set enable_nestloop = off
          as $body$
            declare
              school constant uuid := kedge_school();
              account constant text := nullif(current_setting('kedge.account', true), '');
              who constant text := coalesce(nullif(current_setting('kedge.actor', true), ''), 'Kedge');
              act constant text := coalesce(nullif(current_setting('kedge.command', true), ''), 'terminal');
              run constant uuid := nullif(current_setting('kedge.run', true), '')::uuid;
              undone constant uuid := nullif(current_setting('kedge.undoes', true), '')::uuid;
            begin
              if current_setting('kedge.history', true) = 'off' and session_user <> 'kedge_app' then return null; end if;
              if tg_op = 'INSERT' then
                insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, after)
                select school, account, who, act, run, undone, %2$L, %3$s, %4$s, 'insert', to_jsonb(t) - %5$L::text[] from became t;
              elsif tg_op = 'DELETE' then
                insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, before)
                select school, account, who, act, run, undone, %2$L, %3$s, %4$s, 'delete', to_jsonb(t) - %5$L::text[] from was t;
              else
                insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, before, after)
                select school, account, who, act, run, undone, %2$L, %3$s, %4$s, 'update', %6$s, %7$s
                from (select *, row_number() over () as kedge_row from was) o
                join (select *, row_number() over () as kedge_row from became) t using (kedge_row)
                where %8$s;
              end if;
              return null;
            end $body$ $function$, own, own, key_of, student, noise, was, became, changed);
      execute format('create or replace trigger keep_history_added after insert on %s referencing new table as became
        for each statement execute function kedge_keep_history_%s(%s)', name, own, quoted);
      execute format('create or replace trigger keep_history_changed after update on %s referencing old table as was new table as became
        for each statement execute function kedge_keep_history_%s(%s)', name, own, quoted);
      execute format('create or replace trigger keep_history_removed after delete on %s referencing old table as was
        for each statement execute function kedge_keep_history_%s(%s)', name, own, quoted);
    end $kedge$;
-- Notes for each field that changes the version of its row. Runs after next_version, in the order of their names.
create function kedge_note_fields() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      new.field_versions := old.field_versions || coalesce((
        select jsonb_object_agg(key, new.version) from jsonb_each(to_jsonb(new))
        where key not in ('version', 'field_versions', 'roll_version', 'plain_name', 'changed_by', 'changed_at') and to_jsonb(old) -> key is distinct from value), '{}');
      return new;
    end $$;

-- Nothing is added to a record that was merged into another; merging and its undo alone may.
create function kedge_refuse_merged() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    declare
      found text;
    begin
      if current_setting('kedge.command', true) = 'record.merge' or coalesce(current_setting('kedge.undoes', true), '') <> ''
        then return null; end if;
      select s.sort_name into found from became b join student s on s.school_id = b.school_id and s.id = b.student_id
        where s.merged_into is not null limit 1;
      if found is not null then raise exception using errcode = 'KE001', message = found; end if;
      return null;
    end $$;

create function kedge_refuse_merged_student() returns trigger
  language plpgsql
  set search_path = 'public', 'pg_temp'
  as $$
    begin
      if old.merged_into is not null and new.merged_into is not null
        and current_setting('kedge.command', true) is distinct from 'record.merge' and coalesce(current_setting('kedge.undoes', true), '') = ''
        then raise exception using errcode = 'KE001', message = old.sort_name; end if;
      return new;
    end $$;

-- The worker's clock walks all schools; nobody else may.
create function kedge_schools() returns table(id uuid, name text, time_zone text)
  language sql stable
  as $$ select id, name, time_zone from school order by id $$;
revoke all on function kedge_schools() from public;

create function kedge_try(tried text, free integer, step integer, longest integer) returns integer
  language plpgsql
  set search_path = 'auth', 'pg_temp'
  as $$
    declare
      left_over integer;
    begin
      perform pg_advisory_xact_lock(hashtextextended('sign-in ' || tried, 1));
      left_over := coalesce(public.kedge_wait(tried, free, step, longest), 0);
      if left_over = 0 then insert into sign_in_attempt (name) values (tried); end if;
      return left_over;
    end $$;
revoke all on function kedge_try(tried text, free integer, step integer, longest integer) from public;
grant execute on function kedge_try(tried text, free integer, step integer, longest integer) to kedge_app;

-- How many seconds one waits before the next try: none for the first few, then longer and longer.
create function kedge_wait(tried text, free integer, step integer, longest integer) returns integer
  language sql stable
  set search_path = 'auth', 'pg_temp'
  as $$
      select greatest(0, ceil(extract(epoch from max(a.at) + make_interval(secs =>
        case when count(*) < free then 0 else least(longest, step * 2 ^ least(count(*) - free, 20)) end) - clock_timestamp())))::integer
      from sign_in_attempt a where a.name = tried and a.at > clock_timestamp() - interval '1 day'
    $$;
revoke all on function kedge_wait(tried text, free integer, step integer, longest integer) from public;
grant execute on function kedge_wait(tried text, free integer, step integer, longest integer) to kedge_app;

-- Makes a table a school's own: row-level security, forced also for the table's owner, with one policy that compares
-- school_id with the school set for the transaction; the rights of the application's role; and, given the columns that
-- identify a row, a history of every change.
create function kedge_protect(name regclass, may text default 'select, insert, update, delete', history text[] default null) returns void
  language plpgsql
  as $$
    begin
      execute format('alter table %s enable row level security', name);
      execute format('alter table %s force row level security', name);
      execute format('create policy own_school on %s using (school_id = kedge_school()) with check (school_id = kedge_school())', name);
      execute format('grant %s on %s to kedge_app', may, name);
      if history is not null then perform kedge_keep_history_of(name, history); end if;
    end $$;

-- Tells the pages of an account that its session, its roles or its posts have changed, so that they look whether they
-- still may follow what they follow.
create function kedge_tell_account() returns trigger
  language plpgsql
  set search_path = public, pg_temp
  as $$
    declare
      one constant jsonb := to_jsonb(coalesce(new, old));
      told text;
    begin
      if current_setting('kedge.history', true) = 'off' and session_user <> 'kedge_app' then return null; end if;
      for told in
        select coalesce(one ->> 'account_id', one ->> 'userId') where not one ? 'staff_id'
        union select m.account_id from membership m
        where one ? 'staff_id' and m.school_id = (one ->> 'school_id')::uuid and m.person_id = (one ->> 'staff_id')::uuid
      loop
        perform pg_notify('kedge', jsonb_build_object('school', '*', 'topics', jsonb_build_array('account:' || told))::text);
      end loop;
      return null;
    end $$;
