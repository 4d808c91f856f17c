import { sql, type Kysely } from 'kysely'

/** Acts too large to wait for are background work: what came of them, and the run that can be undone. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  await sql`alter table job add column result jsonb, add column run_id uuid`.execute(db)
  // A run's history is read in parts, in its order.
  await sql`drop index history_of_run`.execute(db)
  await sql`create index history_of_run on history (school_id, run_id, id) where run_id is not null`.execute(
    db,
  )

  // What an update changed is found by going through its columns once.
  await run(`create or replace function kedge_keep_history() returns trigger language plpgsql security definer
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
          (select jsonb_object_agg(k, b.whole -> k) from unnest(tg_argv) k), (b.whole ->> student)::uuid, 'update', d.before, d.after
        from (select to_jsonb(t) as whole, row_number() over () as n from was t) o
        join (select to_jsonb(t) as whole, row_number() over () as n from became t) b using (n)
        cross join lateral (
          select jsonb_object_agg(e.key, e.value) as before, jsonb_object_agg(e.key, b.whole -> e.key) as after
          from jsonb_each(o.whole) e where b.whole -> e.key is distinct from e.value and e.key <> all (noise)) d
        where d.before is not null;
      end if;
      return null;
    end $$`)
}
