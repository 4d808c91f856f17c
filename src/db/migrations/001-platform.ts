import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Schools, sign-in accounts, who may act in which school, and the history of every change. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create extension if not exists btree_gist`.execute(db)
  await sql`create function kedge_school() returns uuid language sql stable parallel safe
    as $$ select nullif(current_setting('kedge.school', true), '')::uuid $$`.execute(db)
  await sql`create function kedge_now() returns timestamptz language sql stable
    as $$ select coalesce(nullif(current_setting('kedge.now', true), '')::timestamptz, clock_timestamp()) $$`.execute(
    db,
  )

  await sql`create table school (
    id uuid primary key,
    name text not null check (length(name) between 1 and 120),
    short_name text not null check (short_name ~ '^[a-z0-9-]{2,40}$'),
    locale text not null default 'en-GB',
    time_zone text not null default 'Europe/London',
    created_at timestamptz not null default kedge_now(),
    unique (short_name)
  )`.execute(db)
  await sql`alter table school enable row level security`.execute(db)
  await sql`alter table school force row level security`.execute(db)
  await sql`create policy own_school on school using (id = kedge_school()) with check (id = kedge_school())`.execute(
    db,
  )
  await sql`grant select on school to kedge_app`.execute(db)

  await sql`create table history (
    school_id uuid not null references school,
    id bigint generated always as identity,
    at timestamptz not null default kedge_now(),
    account_id text,
    actor text not null,
    command text not null,
    table_name text not null,
    row_key jsonb not null,
    student_id uuid,
    operation text not null check (operation in ('insert', 'update', 'delete')),
    before jsonb,
    after jsonb,
    primary key (school_id, id)
  )`.execute(db)
  await sql`create index history_of_student on history (school_id, student_id, id desc) where student_id is not null`.execute(
    db,
  )
  await sql`create index history_of_row on history (school_id, table_name, row_key)`.execute(db)
  await protectSchoolTable(db, 'history', { may: 'select' })

  // Runs with the rights of the tables' owner: the application can add to the history only by changing data.
  await sql`create function kedge_record_history() returns trigger language plpgsql security definer set search_path = public as $$
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
      insert into history (school_id, account_id, actor, command, table_name, row_key, student_id, operation, before, after)
      values (
        kedge_school(),
        nullif(current_setting('kedge.account', true), ''),
        coalesce(nullif(current_setting('kedge.actor', true), ''), 'Kedge'),
        coalesce(nullif(current_setting('kedge.command', true), ''), 'terminal'),
        tg_table_name,
        (select jsonb_object_agg(k, whole -> k) from unnest(tg_argv) k),
        case when tg_table_name = 'student' then whole ->> 'id' else whole ->> 'student_id' end :: uuid,
        lower(tg_op), was, becomes);
      return null;
    end $$`.execute(db)

  // Sign-in accounts belong to the installation, not to one school; column names are the sign-in package's.
  await sql`create schema auth`.execute(db)
  await sql`grant usage on schema auth to kedge_app`.execute(db)
  await sql`create table auth."user" (
    id text primary key, name text not null, email text not null unique, "emailVerified" boolean not null default false,
    image text, username text not null unique, "displayUsername" text, "mustChangePassword" boolean not null default true,
    "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
  )`.execute(db)
  await sql`create table auth.session (
    id text primary key, "userId" text not null references auth."user" on delete cascade, token text not null unique,
    "expiresAt" timestamptz not null, "ipAddress" text, "userAgent" text,
    "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now()
  )`.execute(db)
  await sql`create index session_of_user on auth.session ("userId")`.execute(db)
  await sql`create table auth.account (
    id text primary key, "userId" text not null references auth."user" on delete cascade, "accountId" text not null,
    "providerId" text not null, password text, "accessToken" text, "refreshToken" text, "idToken" text, scope text,
    "accessTokenExpiresAt" timestamptz, "refreshTokenExpiresAt" timestamptz,
    "createdAt" timestamptz not null default now(), "updatedAt" timestamptz not null default now(),
    unique ("userId", "providerId")
  )`.execute(db)
  await sql`create table auth.verification (
    id text primary key, identifier text not null, value text not null, "expiresAt" timestamptz not null,
    "createdAt" timestamptz default now(), "updatedAt" timestamptz default now()
  )`.execute(db)
  await sql`create table auth.sign_in_failure (username text not null, at timestamptz not null default clock_timestamp())`.execute(
    db,
  )
  await sql`create index sign_in_failure_of on auth.sign_in_failure (username, at)`.execute(db)
  await sql`grant select, insert, update, delete on all tables in schema auth to kedge_app`.execute(db)

  await sql`create table membership (
    school_id uuid not null references school,
    account_id text not null references auth."user",
    role text not null check (role in ('administrator', 'head', 'office', 'records', 'teacher', 'student', 'guardian')),
    person_id uuid not null,
    name text not null,
    active boolean not null default true,
    primary key (school_id, account_id)
  )`.execute(db)
  await sql`create index membership_of_account on membership (account_id)`.execute(db)
  await protectSchoolTable(db, 'membership', { history: ['account_id'] })
  // Before a school is chosen, an account may see where it belongs.
  await sql`create policy own_account on membership for select
    using (account_id = nullif(current_setting('kedge.account', true), ''))`.execute(db)

  await sql`create table answered_command (
    school_id uuid not null references school,
    account_id text not null,
    key uuid not null,
    command text not null,
    answer jsonb,
    at timestamptz not null default clock_timestamp(),
    primary key (school_id, account_id, key)
  )`.execute(db)
  await sql`create index answered_command_age on answered_command (at)`.execute(db)
  await protectSchoolTable(db, 'answered_command')
}
