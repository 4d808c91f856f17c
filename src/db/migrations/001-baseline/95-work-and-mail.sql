-- Background work with its progress, mail on its way out, and the stand-in mailbox that receives it in a demo.

-- Work without fixed kinds, of which at most one with the same key is alive.
create table job (
  school_id uuid not null references school,
  id uuid not null,
  kind text not null,
  title text not null,
  input jsonb not null,
  state text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
  done integer not null default 0,
  total integer not null default 0,
  message text,
  document_id uuid,
  attempts smallint not null default 0,
  cancel_asked boolean not null default false,
  account_id text not null,
  actor text not null,
  created_at timestamptz not null default kedge_now(),
  started_at timestamptz,
  finished_at timestamptz,
  live_key text,
  finished jsonb,
  dismissed_at timestamptz,
  result jsonb,
  run_id uuid,
  primary key (school_id, id),
  foreign key (school_id, document_id) references document (school_id, id)
);
create unique index job_alive on job (school_id, live_key) where ((live_key is not null) and (state in ('waiting', 'running')));
create index job_newest on job (school_id, account_id, id desc);
create index job_school_id_document_id_fkey_index on job (school_id, document_id);
select kedge_protect('job', may => 'select, insert, update');

-- What the clock has begun, so that it begins once.
create table occurrence (
  school_id uuid not null references school,
  name text not null,
  day date not null,
  primary key (school_id, name, day)
);
select kedge_protect('occurrence', may => 'select, insert, delete');

create table mail (
  school_id uuid not null references school,
  id uuid not null,
  dedupe text not null,
  to_name text not null,
  to_address text not null,
  subject text not null,
  body text,
  student_id uuid,
  guardian_id uuid,
  state text not null default 'waiting' check (state in ('waiting', 'sent', 'failed')),
  error text,
  created_at timestamptz not null default kedge_now(),
  sent_at timestamptz,
  kind text not null default 'plain',
  about jsonb not null default '{}'::jsonb,
  primary key (school_id, id),
  unique (school_id, dedupe),
  foreign key (school_id, student_id) references student (school_id, id)
);
create index mail_school_id_student_id_fkey_index on mail (school_id, student_id);
select kedge_protect('mail', may => 'select, insert, update', history => '{id}');

-- The mailbox that ships with Kedge is a device outside a school.
create table stand_in.mailbox (
  school_id uuid not null references school,
  message_id text not null,
  received_at timestamptz not null default kedge_now(),
  sender text not null,
  recipient text not null,
  subject text not null,
  body text not null,
  primary key (school_id, message_id)
);
select kedge_protect('stand_in.mailbox', may => 'select, insert');
