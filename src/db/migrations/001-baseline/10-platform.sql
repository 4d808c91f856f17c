-- Schools, sign-in accounts, who may act in which school, the history of every change, runs of commands with their
-- undo, and files.

create table school (
  id uuid primary key,
  name text not null check ((length(name) >= 1) and (length(name) <= 120)),
  short_name text not null unique check (short_name ~ '^[a-z0-9-]{2,40}$'),
  locale text not null default 'en-GB',
  time_zone text not null default 'Europe/London' check (kedge_is_time_zone(time_zone)),
  created_at timestamptz not null default kedge_now()
);
create policy all_schools on school for select to kedge_owner using (true);
create policy own_school on school using ((id = kedge_school())) with check ((id = kedge_school()));
alter table school enable row level security;
alter table school force row level security;
grant select on school to kedge_app;

create table auth."user" (
  id text primary key,
  name text not null,
  email text not null unique,
  "emailVerified" boolean not null default false,
  image text,
  username text unique,
  "displayUsername" text,
  "mustChangePassword" boolean not null default true,
  "createdAt" timestamptz not null default now(),
  "updatedAt" timestamptz not null default now(),
  "lastSchoolId" uuid
);
grant select, insert, update, delete on auth."user" to kedge_app;

-- A session ends when nothing was done in it for as long as its person's roles allow, or a shared computer does.
create table auth.session (
  id text primary key,
  "userId" text not null references auth."user" on delete cascade,
  token text not null unique,
  "expiresAt" timestamptz not null,
  "ipAddress" text,
  "userAgent" text,
  "createdAt" timestamptz not null default now(),
  "updatedAt" timestamptz not null default now(),
  "schoolId" uuid,
  active_at timestamptz not null default clock_timestamp(),
  shared_computer boolean not null default false
);
create index session_end on auth.session ("expiresAt");
create index session_of_user on auth.session ("userId");
create trigger tell_account after update of "schoolId" or delete on auth.session for each row execute function kedge_tell_account();
grant select, insert, update, delete on auth.session to kedge_app;

create table auth.account (
  id text primary key,
  "userId" text not null references auth."user" on delete cascade,
  "accountId" text not null,
  "providerId" text not null,
  password text,
  "accessToken" text,
  "refreshToken" text,
  "idToken" text,
  scope text,
  "accessTokenExpiresAt" timestamptz,
  "refreshTokenExpiresAt" timestamptz,
  "createdAt" timestamptz not null default now(),
  "updatedAt" timestamptz not null default now(),
  constraint "account_userId_providerId_key" unique ("userId", "providerId")
);
grant select, insert, update, delete on auth.account to kedge_app;

create table auth.verification (
  id text primary key,
  identifier text not null,
  value text not null,
  "expiresAt" timestamptz not null,
  "createdAt" timestamptz default now(),
  "updatedAt" timestamptz default now()
);
grant select, insert, update, delete on auth.verification to kedge_app;

-- A one-time link accepts an invitation, lets the owner of an account choose a new password, or confirms one address
-- of an account; a later address is not confirmed by it.
create table auth.one_time_link (
  token_hash text primary key,
  school_id uuid not null,
  invitation_id uuid,
  expires_at timestamptz not null,
  used_at timestamptz,
  account_id text references auth."user" on delete cascade,
  address text,
  constraint address_of_account check ((address is null) or (account_id is not null)),
  check (num_nonnulls(invitation_id, account_id) = 1)
);
create index one_time_link_age on auth.one_time_link (expires_at);
create index one_time_link_of_account on auth.one_time_link (account_id);
grant select, insert, update, delete on auth.one_time_link to kedge_app;

-- Secret addresses under which calendar programs fetch a school's year; only the hash of each is kept.
create table auth.calendar_feed (
  token_hash text primary key,
  school_id uuid not null,
  account_id text not null references auth."user" on delete cascade,
  created_at timestamptz not null default clock_timestamp(),
  unique (school_id, account_id)
);
grant select, insert, update, delete on auth.calendar_feed to kedge_app;

-- A try at signing in is put down before it is looked at, so that many at once cannot pass the limit. What is tried
-- is kept as a keyed hash: a password typed as a user name does not lie here.
create table auth.sign_in_attempt (
  name text not null,
  at timestamptz not null default clock_timestamp()
);
create index sign_in_attempt_age on auth.sign_in_attempt (at);
create index sign_in_attempt_of on auth.sign_in_attempt (name, at);
grant select, insert, update, delete on auth.sign_in_attempt to kedge_app;

-- A person has one membership for each role: a head who teaches, a teacher who is a guardian.
create table membership (
  school_id uuid not null references school,
  account_id text not null references auth."user",
  role text not null check (role in ('administrator', 'head', 'office', 'records', 'teacher', 'student', 'guardian')),
  person_id uuid not null,
  name text not null,
  active boolean not null default true,
  primary key (school_id, account_id, role)
);
create index membership_of_account on membership (account_id);
-- One guardian has one account; of two that accepted, the first stays.
create unique index membership_of_guardian on membership (school_id, person_id) where (role = 'guardian');
-- Before a school is chosen, an account may see where it belongs.
create policy own_account on membership for select using ((account_id = nullif(current_setting('kedge.account', true), '')));
create trigger tell_account after insert or update or delete on membership for each row execute function kedge_tell_account();
select kedge_protect('membership', history => '{account_id, role}');

-- Somebody becomes a member only by accepting an invitation; only the hash of its link is kept.
create table invitation (
  school_id uuid not null references school,
  id uuid not null,
  role text not null check (role in ('guardian', 'student')),
  person_id uuid not null,
  name text not null,
  email text not null,
  created_at timestamptz not null default kedge_now(),
  accepted_at timestamptz,
  account_id text references auth."user",
  primary key (school_id, id)
);
create index invitation_of_account on invitation (account_id);
create index invitation_of_person on invitation (school_id, person_id);
select kedge_protect('invitation', may => 'select, insert, update', history => '{id}');

-- Written by triggers alone, which take the school from the session: a look at each line's school would cost as much as
-- an index.
create table history (
  school_id uuid not null,
  id bigint not null generated always as identity,
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
  run_id uuid,
  undoes uuid,
  primary key (school_id, id)
);
-- Only fields of records look for who changed them last; an index over every mark ever made costs more than the mark.
create index history_of_record on history (school_id, table_name, row_key) where (table_name in ('student', 'guardian', 'staff_member', 'academic_year'));
create index history_of_run on history (school_id, run_id, id) where (run_id is not null);
create index history_of_student on history (school_id, student_id, id desc) where (student_id is not null);
select kedge_protect('history', may => 'select');

-- Every run of a command that can be undone. Its id is carried by its rows in the history.
create table command_run (
  school_id uuid not null references school,
  id uuid not null,
  command text not null,
  input jsonb not null,
  account_id text not null,
  at timestamptz not null default kedge_now(),
  undone_at timestamptz,
  primary key (school_id, id)
);
create index command_run_age on command_run (school_id, at);
select kedge_protect('command_run');

create table answered_command (
  school_id uuid not null references school,
  account_id text not null,
  key uuid not null,
  command text not null,
  answer jsonb,
  at timestamptz not null default clock_timestamp(),
  run_id uuid,
  input_hash text,
  primary key (school_id, account_id, key)
);
create index answered_command_age on answered_command (at);
select kedge_protect('answered_command');

-- Files have a purpose, not a fixed list of kinds; prints may be larger than uploads.
create table document (
  school_id uuid not null references school,
  id uuid not null,
  name text not null,
  media_type text not null,
  size integer not null check ((size >= 1) and (size <= 536870912)),
  sha256 text not null,
  page_count integer,
  created_by text not null,
  created_at timestamptz not null default kedge_now(),
  purpose text not null default 'upload',
  primary key (school_id, id),
  constraint document_name_length check (length(name) <= 200)
);
create index document_age on document (school_id, created_at);
select kedge_protect('document', may => 'select, insert, delete');

-- What stored files hold, where the database is their store. They go with their row.
create table document_contents (
  school_id uuid not null,
  document_id uuid not null,
  bytes bytea not null,
  primary key (school_id, document_id),
  foreign key (school_id, document_id) references document (school_id, id) on delete cascade
);
alter table only document_contents alter column bytes set storage external;
select kedge_protect('document_contents', may => 'select, insert');

-- What the nightly check of the rules has found.
create table data_check (
  school_id uuid primary key references school,
  checked_at timestamptz not null,
  found jsonb not null
);
select kedge_protect('data_check');
