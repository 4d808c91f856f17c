import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'
import { protectSchoolTable } from '@/db/school-table'

const versioned = [
  'student',
  'attendance_mark',
  'assessment',
  'answer_sheet',
  'gradebook',
  'assignment',
  'score',
  'class_entries',
  'report_entry',
]

/** Texts that people type, with the most characters each may hold. */
const lengths: readonly (readonly [table: string, column: string, most: number])[] = [
  ['student', 'legal_given_name', limits.personName],
  ['student', 'legal_family_name', limits.personName],
  ['student', 'preferred_name', limits.personName],
  ['student', 'address', limits.line],
  ['guardian', 'given_name', limits.personName],
  ['guardian', 'family_name', limits.personName],
  ['guardian', 'email', limits.email],
  ['guardian', 'phone', limits.phone],
  ['guardianship', 'relation', limits.relation],
  ['assessment', 'name', limits.name],
  ['category', 'name', limits.shortName],
  ['assignment', 'name', limits.shortName],
  ['report_entry', 'comment', limits.comment],
  ['document', 'name', limits.fileName],
]

/**
 * Runs of commands with their undo, versions that are never used twice, people with several roles and invitations
 * they accept themselves, files and work without fixed kinds, and an index for every foreign key.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  // A version is drawn by the database at every write, so that no writer can forget it and none comes twice.
  await run('create sequence kedge_version as integer cycle')
  await run('grant usage on sequence kedge_version to kedge_app')
  await run(`create function kedge_next_version() returns trigger language plpgsql as $$
    begin new.version := nextval('kedge_version'); return new; end $$`)
  for (const table of versioned) {
    await run(`create trigger next_version before insert or update on ${table}
      for each row execute function kedge_next_version()`)
    await run(`alter table ${table} no force row level security`)
    await run(
      `select setval('kedge_version', greatest(nextval('kedge_version'), (select coalesce(max(version), 0) from ${table}) + 1))`,
    )
    await run(`alter table ${table} force row level security`)
  }

  // Every run of a command has an id that its history rows carry.
  await run('alter table history add column run_id uuid, add column undoes uuid')
  await run('create index history_of_run on history (school_id, run_id) where run_id is not null')
  await run(`create or replace function kedge_record_history() returns trigger language plpgsql security definer set search_path = public as $$
    declare
      noise constant text[] := array['version', 'changed_at', 'changed_by', 'school_id'];
      old_row jsonb := case when tg_op <> 'INSERT' then to_jsonb(old) end;
      new_row jsonb := case when tg_op <> 'DELETE' then to_jsonb(new) end;
      whole jsonb := coalesce(new_row, old_row);
      was jsonb := old_row - noise;
      becomes jsonb := new_row - noise;
    begin
      -- Loading a school is no change to it; only the owner may load.
      if current_setting('kedge.history', true) = 'off' and session_user <> 'kedge_app' then return null; end if;
      if tg_op = 'UPDATE' then
        if was = becomes then return null; end if;
        select jsonb_object_agg(key, value) into was from jsonb_each(old_row - noise) where new_row -> key is distinct from value;
        select jsonb_object_agg(key, value) into becomes from jsonb_each(new_row - noise) where old_row -> key is distinct from value;
      end if;
      insert into history (school_id, account_id, actor, command, run_id, undoes, table_name, row_key, student_id, operation, before, after)
      values (
        kedge_school(),
        nullif(current_setting('kedge.account', true), ''),
        coalesce(nullif(current_setting('kedge.actor', true), ''), 'Kedge'),
        coalesce(nullif(current_setting('kedge.command', true), ''), 'terminal'),
        nullif(current_setting('kedge.run', true), '')::uuid,
        nullif(current_setting('kedge.undoes', true), '')::uuid,
        tg_table_name,
        (select jsonb_object_agg(k, whole -> k) from unnest(tg_argv) k),
        case when tg_table_name = 'student' then whole ->> 'id' else whole ->> 'student_id' end :: uuid,
        lower(tg_op), was, becomes);
      return null;
    end $$`)
  await run(`create table command_run (
    school_id uuid not null references school, id uuid not null, command text not null, input jsonb not null,
    account_id text not null, at timestamptz not null default kedge_now(), undone_at timestamptz,
    primary key (school_id, id)
  )`)
  await protectSchoolTable(db, 'command_run', { may: 'select, insert, update, delete' })
  await run('create index command_run_age on command_run (school_id, at)')
  await run('alter table answered_command add column run_id uuid, add column input_hash text')
  // What an undo of an enrolment takes back.
  await run('grant delete on student to kedge_app')
  await run(`create trigger keep_history after insert or update or delete on report_round_year_group
    for each row execute function kedge_record_history('round_id', 'year_group_id')`)

  // A person has one membership for each role: a head who teaches, a teacher who is a guardian.
  await run(
    'alter table membership drop constraint membership_pkey, add primary key (school_id, account_id, role)',
  )
  await run('drop trigger keep_history on membership')
  await run(`create trigger keep_history after insert or update or delete on membership
    for each row execute function kedge_record_history('account_id', 'role')`)
  await run('alter table auth."user" alter column username drop not null')
  await run('alter table auth.session add column "schoolId" uuid')
  await run('drop function kedge_actor')
  await run(`create function kedge_actor(account text, at_school uuid)
    returns table (username text, school_id uuid, school_name text, time_zone text, name text, roles text[], staff_id uuid, guardian_id uuid, student_id uuid)
    language plpgsql volatile set search_path = public as $$
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
    end $$`)
  await run('revoke execute on function kedge_actor from public')
  await run('grant execute on function kedge_actor to kedge_app')

  // Somebody becomes a member only by accepting an invitation; only the hash of its link is kept.
  await run(`create table invitation (
    school_id uuid not null references school, id uuid not null, role text not null check (role in ('guardian', 'student')),
    person_id uuid not null, name text not null, email text not null,
    created_at timestamptz not null default kedge_now(), accepted_at timestamptz, account_id text references auth."user",
    primary key (school_id, id)
  )`)
  await run('create index invitation_of_person on invitation (school_id, person_id)')
  await run('create index invitation_of_account on invitation (account_id)')
  await protectSchoolTable(db, 'invitation', { history: ['id'], may: 'select, insert, update' })
  await run(`create table auth.one_time_link (
    token_hash text primary key, school_id uuid not null, invitation_id uuid not null,
    expires_at timestamptz not null, used_at timestamptz
  )`)
  await run('grant select, insert, update, delete on auth.one_time_link to kedge_app')

  // A try at signing in is put down before it is looked at, so that many at once cannot pass the limit.
  await run('alter table auth.sign_in_failure rename to sign_in_attempt')
  await run('alter table auth.sign_in_attempt rename column username to name')
  await run('alter index auth.sign_in_failure_of rename to sign_in_attempt_of')
  await run(`create function kedge_may_try(tried text, most integer, minutes integer) returns boolean language plpgsql volatile set search_path = auth as $$
    begin
      perform pg_advisory_xact_lock(hashtextextended('sign-in ' || tried, 1));
      if (select count(*) from sign_in_attempt a where a.name = tried and a.at > clock_timestamp() - make_interval(mins => minutes)) >= most
        then return false; end if;
      insert into sign_in_attempt (name) values (tried);
      return true;
    end $$`)
  await run('revoke execute on function kedge_may_try from public')
  await run('grant execute on function kedge_may_try to kedge_app')

  // Files have a purpose, not a fixed list of kinds; prints may be larger than uploads.
  await run("alter table document add column purpose text not null default 'upload'")
  await run('alter table document drop constraint document_size_check')
  await run(
    `alter table document add constraint document_size_check check (size between 1 and ${limits.file})`,
  )
  await run('create index document_age on document (school_id, created_at)')

  // Work without fixed kinds, of which at most one with the same key is alive.
  await run(
    'alter table job drop constraint job_kind_check, add column live_key text, add column finished jsonb',
  )
  await run(
    `update job set state = 'failed', message = 'This stopped when Kedge was updated. Please start it again.' where state in ('waiting', 'running')`,
  )
  await run(
    `create unique index job_alive on job (school_id, live_key) where live_key is not null and state in ('waiting', 'running')`,
  )
  await run(`alter table job alter column kind type text`)
  await run(`create table occurrence (
    school_id uuid not null references school, name text not null, day date not null, primary key (school_id, name, day)
  )`)
  await protectSchoolTable(db, 'occurrence', { may: 'select, insert, delete' })
  // The worker's clock walks all schools; nobody else may.
  await run(
    `do $$ begin execute format('create policy all_schools on school for select to %I using (true)', current_user); end $$`,
  )
  await run(`create function kedge_schools() returns table (id uuid, name text, time_zone text) language sql stable
    as $$ select id, name, time_zone from school order by id $$`)
  await run('revoke execute on function kedge_schools from public')
  await run(`create or replace function kedge_enqueue(school uuid, task text, subject uuid) returns void language plpgsql security definer set search_path = public as $$
    begin
      if school is distinct from kedge_school() then raise exception 'work belongs to the school it is asked in'; end if;
      if task not in ('run-job', 'send-mail') then raise exception 'there is no task %', task; end if;
      -- A mail is tried for about four days, with growing pauses.
      perform graphile_worker.add_job(task, json_build_object('schoolId', school, 'id', subject), job_key => subject::text,
        max_attempts => case task when 'send-mail' then 26 else 8 end);
    end $$`)

  // Mails say of which kind they are. What holds a secret is written when it is sent and kept nowhere.
  await run(`alter table mail add column kind text not null default 'plain', add column about jsonb not null default '{}',
    alter column body drop not null`)
  await run('alter table mail no force row level security')
  await run('alter table history no force row level security')
  await run(
    `update history set after = after - 'body' where table_name = 'mail' and after ->> 'dedupe' like 'invitation:%'`,
  )
  await run(`update mail set body = null where dedupe like 'invitation:%'`)
  await run('alter table mail force row level security')
  await run('alter table history force row level security')

  // The mailbox that ships with Kedge is a device outside a school.
  await run('create schema stand_in')
  await run('grant usage on schema stand_in to kedge_app')
  await run('alter table mailbox set schema stand_in')

  // How a student travels is every school's question; the ferry is only one answer.
  await run('alter table student rename column ferry to transport')
  await run(
    `alter table student add constraint student_transport_length check (length(transport) <= ${limits.line})`,
  )

  await run(`create function kedge_is_time_zone(zone text) returns boolean language sql stable
    as $$ select exists (select 1 from pg_timezone_names where name = zone) $$`)
  await run('alter table school no force row level security')
  await run(`update school set time_zone = 'UTC' where not kedge_is_time_zone(time_zone)`)
  await run('alter table school force row level security')
  await run('alter table school add constraint school_time_zone_check check (kedge_is_time_zone(time_zone))')

  for (const [table, column, most] of lengths)
    await run(
      `alter table ${table} add constraint ${table}_${column}_length check (length(${column}) <= ${most})`,
    )
  await run(
    `alter table category add constraint category_drop_lowest_most check (drop_lowest <= ${limits.dropLowest})`,
  )

  // Every foreign key is served by an index.
  await run(`do $$
    declare k record;
    begin
      for k in
        select c.conrelid::regclass as child, c.conname, (select string_agg(quote_ident(a.attname), ', ' order by x.n)
          from unnest(c.conkey) with ordinality x(att, n) join pg_attribute a on a.attrelid = c.conrelid and a.attnum = x.att) as columns
        from pg_constraint c
        where c.contype = 'f' and c.connamespace = 'public'::regnamespace and not exists (
          select 1 from pg_index i where i.indrelid = c.conrelid and i.indpred is null
            and (select array_agg(x order by x) from unnest((i.indkey::int2[])[0:array_length(c.conkey, 1) - 1]) x)
              = (select array_agg(x order by x) from unnest(c.conkey) x))
      loop
        execute format('create index %I on %s (%s)', k.conname || '_index', k.child, k.columns);
      end loop;
    end $$`)
}
