import { sql, type Kysely } from 'kysely'
import { protectSchoolTable } from '@/db/school-table'

/** Background work with its progress, mail on its way out, and the stand-in mailbox that receives it in a demo. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create table job (
    school_id uuid not null references school, id uuid not null,
    kind text not null check (kind in ('print cards', 'release cards')), title text not null, input jsonb not null,
    state text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
    done integer not null default 0, total integer not null default 0, message text, document_id uuid,
    attempts smallint not null default 0, cancel_asked boolean not null default false,
    account_id text not null, actor text not null, created_at timestamptz not null default kedge_now(),
    started_at timestamptz, finished_at timestamptz,
    primary key (school_id, id), foreign key (school_id, document_id) references document
  )`.execute(db)
  await sql`create index job_newest on job (school_id, account_id, id desc)`.execute(db)
  await sql`create table mail (
    school_id uuid not null references school, id uuid not null, dedupe text not null,
    to_name text not null, to_address text not null, subject text not null, body text not null, student_id uuid, guardian_id uuid,
    state text not null default 'waiting' check (state in ('waiting', 'sent', 'failed')), error text,
    created_at timestamptz not null default kedge_now(), sent_at timestamptz,
    primary key (school_id, id), unique (school_id, dedupe), foreign key (school_id, student_id) references student
  )`.execute(db)
  await sql`create table mailbox (
    school_id uuid not null references school, message_id text not null, received_at timestamptz not null default kedge_now(),
    sender text not null, recipient text not null, subject text not null, body text not null,
    primary key (school_id, message_id)
  )`.execute(db)
  await protectSchoolTable(db, 'job', { may: 'select, insert, update' })
  await protectSchoolTable(db, 'mail', { history: ['id'], may: 'select, insert, update' })
  await protectSchoolTable(db, 'mailbox', { may: 'select, insert' })
  // The application may ask for work to be done; only the worker, signed in as the owner, sees the queue.
  await sql`create function kedge_enqueue(school uuid, task text, subject uuid) returns void language plpgsql security definer set search_path = public as $$
    begin
      if school is distinct from kedge_school() then raise exception 'work belongs to the school it is asked in'; end if;
      if task not in ('run-job', 'send-mail') then raise exception 'there is no task %', task; end if;
      perform graphile_worker.add_job(task, json_build_object('schoolId', school, 'id', subject), job_key => subject::text, max_attempts => 8);
    end $$`.execute(db)
  await sql`revoke execute on function kedge_enqueue from public`.execute(db)
  await sql`grant execute on function kedge_enqueue to kedge_app`.execute(db)
}
