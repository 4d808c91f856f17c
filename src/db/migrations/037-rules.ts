import { sql, type Kysely } from 'kysely'

/**
 * Rules that hold whoever writes: no two plans of a student and no two spans of days without school overlap, and
 * nothing is done to a record that was merged. The history is kept by statement, however many rows one changes.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  await run(`alter table closure add constraint closures_apart
    exclude using gist (school_id with =, daterange(first_day, last_day, '[]') with &&) deferrable`)

  // A whole day holds everything; half-days and lessons are planned beside each other.
  await run(`alter table planned_absence add column part int4range not null generated always as (case sessions
    when 'whole day' then int4range(0, 1000) when 'morning' then int4range(0, 1) when 'afternoon' then int4range(1, 2)
    else int4range(10 + first_period, 11 + last_period) end) stored`)
  await run(`alter table planned_absence add constraint plans_apart exclude using gist
    (school_id with =, student_id with =, daterange(first_day, last_day, '[]') with &&, part with &&) deferrable`)

  // Only fields of records look for who changed them last; an index over every mark ever made costs more than the mark.
  await run('drop index history_of_row')
  await run(`create index history_of_record on history (school_id, table_name, row_key)
    where table_name in ('student', 'guardian', 'staff_member', 'academic_year')`)

  // One statement for all rows that a statement has changed. Both transition tables hold the rows of an update in the
  // order in which it was done, so that a row finds what it was even where its key has changed. Plans are kept from when
  // few rows had changed; a loop within a loop would never end with many.
  await run(`create function kedge_keep_history() returns trigger language plpgsql security definer
    set search_path = public, pg_temp set enable_nestloop = off as $$
    declare
      noise constant text[] := array['version', 'changed_at', 'changed_by', 'school_id', 'field_versions', 'roll_version', 'plain_name', 'part'];
      school constant uuid := kedge_school();
      account constant text := nullif(current_setting('kedge.account', true), '');
      who constant text := coalesce(nullif(current_setting('kedge.actor', true), ''), 'Kedge');
      act constant text := coalesce(nullif(current_setting('kedge.command', true), ''), 'terminal');
      run constant uuid := nullif(current_setting('kedge.run', true), '')::uuid;
      undone constant uuid := nullif(current_setting('kedge.undoes', true), '')::uuid;
      student constant text := case when tg_table_name = 'student' then 'id' else 'student_id' end;
    begin
      -- Loading a school is no change to it; only the owner may load.
      if current_setting('kedge.history', true) = 'off' and session_user <> 'kedge_app' then return null; end if;
      if tg_op = 'INSERT' then
        insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, after)
        select school, account, who, act, run, undone, tg_table_name,
          (select jsonb_object_agg(k, x.whole -> k) from unnest(tg_argv) k), (x.whole ->> student)::uuid, 'insert', x.whole - noise
        from (select to_jsonb(t) as whole from became t) x;
      elsif tg_op = 'DELETE' then
        insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, before)
        select school, account, who, act, run, undone, tg_table_name,
          (select jsonb_object_agg(k, x.whole -> k) from unnest(tg_argv) k), (x.whole ->> student)::uuid, 'delete', x.whole - noise
        from (select to_jsonb(t) as whole from was t) x;
      else
        insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, before, after)
        select school, account, who, act, run, undone, tg_table_name,
          (select jsonb_object_agg(k, b.whole -> k) from unnest(tg_argv) k), (b.whole ->> student)::uuid, 'update',
          (select jsonb_object_agg(e.key, e.value) from jsonb_each(o.row) e where b.row -> e.key is distinct from e.value),
          (select jsonb_object_agg(e.key, e.value) from jsonb_each(b.row) e where o.row -> e.key is distinct from e.value)
        from (select to_jsonb(t) - noise as row, row_number() over () as n from was t) o
        join (select to_jsonb(t) as whole, to_jsonb(t) - noise as row, row_number() over () as n from became t) b using (n)
        where o.row <> b.row;
      end if;
      return null;
    end $$`)

  // How a table gets its history: three triggers, since each sees what its kind of statement has changed.
  await run(`create function kedge_keep_history_of(name regclass, keys text[]) returns void language plpgsql as $$
    declare
      quoted constant text := (select string_agg(quote_literal(k), ', ') from unnest(keys) k);
    begin
      execute format('create trigger keep_history_added after insert on %s referencing new table as became
        for each statement execute function kedge_keep_history(%s)', name, quoted);
      execute format('create trigger keep_history_changed after update on %s referencing old table as was new table as became
        for each statement execute function kedge_keep_history(%s)', name, quoted);
      execute format('create trigger keep_history_removed after delete on %s referencing old table as was
        for each statement execute function kedge_keep_history(%s)', name, quoted);
    end $$`)

  // Beside it: nothing is added to a record that was merged into another; merging and its undo alone may. What stayed
  // with that record, since both had it, still changes along with all others, as marks do with their codes.
  await run(`create function kedge_refuse_merged() returns trigger language plpgsql set search_path = public, pg_temp as $$
    declare
      found text;
    begin
      if current_setting('kedge.command', true) = 'record.merge' or coalesce(current_setting('kedge.undoes', true), '') <> ''
        then return null; end if;
      select s.sort_name into found from became b join student s on s.school_id = b.school_id and s.id = b.student_id
        where s.merged_into is not null limit 1;
      if found is not null then raise exception using errcode = 'KE001', message = found; end if;
      return null;
    end $$`)
  await run(`create function kedge_refuse_merged_student() returns trigger language plpgsql set search_path = public, pg_temp as $$
    begin
      if old.merged_into is not null and new.merged_into is not null
        and current_setting('kedge.command', true) is distinct from 'record.merge' and coalesce(current_setting('kedge.undoes', true), '') = ''
        then raise exception using errcode = 'KE001', message = old.sort_name; end if;
      return new;
    end $$`)
  await run(`create trigger refuse_merged before update on student
    for each row execute function kedge_refuse_merged_student()`)

  // Whether an account was ever made a member of another school, also where it is not active there now.
  await run(`create function kedge_is_member_elsewhere(account text, here uuid) returns boolean
    language plpgsql volatile set search_path = public, pg_temp as $$
    declare
      before constant text := current_setting('kedge.account', true);
      found boolean;
    begin
      perform set_config('kedge.account', account, true);
      found := exists (select 1 from membership m where m.account_id = account and m.school_id <> here);
      perform set_config('kedge.account', coalesce(before, ''), true);
      return found;
    end $$`)
  await run('revoke execute on function kedge_is_member_elsewhere(text, uuid) from public')
  await run('grant execute on function kedge_is_member_elsewhere(text, uuid) to kedge_app')

  await run(`do $$ declare t record; begin
    for t in select tgrelid::regclass as name, rtrim(encode(tgargs, 'escape'), '\\000') as keys from pg_trigger
      where tgname = 'keep_history' and not tgisinternal
    loop
      execute format('drop trigger keep_history on %s', t.name);
      perform kedge_keep_history_of(t.name, string_to_array(t.keys, '\\000'));
    end loop;
    drop function kedge_record_history();
    for t in select c.conrelid::regclass as name from pg_constraint c where c.contype = 'f'
      and c.confrelid = 'student'::regclass and c.conrelid <> all (array['student', 'mail', 'report_card']::regclass[])
      and c.connamespace = 'public'::regnamespace group by 1
    loop
      execute format('create trigger refuse_merged_added after insert on %s referencing new table as became
        for each statement execute function kedge_refuse_merged()', t.name);
    end loop;
  end $$`)
}
