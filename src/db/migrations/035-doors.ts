import { sql, type Kysely } from 'kysely'

/** Tries that wait longer and longer, sessions that end, and functions that a temporary table cannot deceive. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)

  // What is tried is kept as a keyed hash: a password typed as a user name does not lie here.
  await run('delete from auth.sign_in_attempt')
  await run('create index sign_in_attempt_age on auth.sign_in_attempt (at)')
  await run('drop function kedge_may_try')
  await run(`create function kedge_wait(tried text, free integer, step integer, longest integer) returns integer
    language sql stable set search_path = auth, pg_temp as $$
      select greatest(0, ceil(extract(epoch from max(a.at) + make_interval(secs =>
        case when count(*) < free then 0 else least(longest, step * 2 ^ least(count(*) - free, 20)) end) - clock_timestamp())))::integer
      from sign_in_attempt a where a.name = tried and a.at > clock_timestamp() - interval '1 day'
    $$`)
  await run(`create function kedge_try(tried text, free integer, step integer, longest integer) returns integer
    language plpgsql volatile set search_path = auth, pg_temp as $$
    declare
      left_over integer;
    begin
      perform pg_advisory_xact_lock(hashtextextended('sign-in ' || tried, 1));
      left_over := coalesce(public.kedge_wait(tried, free, step, longest), 0);
      if left_over = 0 then insert into sign_in_attempt (name) values (tried); end if;
      return left_over;
    end $$`)
  for (const name of [
    'kedge_wait(text, integer, integer, integer)',
    'kedge_try(text, integer, integer, integer)',
  ]) {
    await run(`revoke execute on function ${name} from public`)
    await run(`grant execute on function ${name} to kedge_app`)
  }

  // One guardian has one account; of two that accepted, the first stays.
  await run(`delete from membership m using membership earlier
    where m.role = 'guardian' and earlier.school_id = m.school_id and earlier.role = m.role
      and earlier.person_id = m.person_id and earlier.account_id < m.account_id`)
  await run(
    "create unique index membership_of_guardian on membership (school_id, person_id) where role = 'guardian'",
  )

  // A temporary table is found before all others unless pg_temp is named last: with a table of its own called history,
  // the application could have kept its changes out of the history.
  await run(`do $$ declare f record; begin
    for f in select p.oid::regprocedure as signature,
        (select substr(c, length('search_path=') + 1) from unnest(p.proconfig) c where c like 'search_path=%') as path
      from pg_proc p where p.pronamespace = 'public'::regnamespace and p.proname like 'kedge\\_%'
        and (p.prosecdef or p.prorettype = 'trigger'::regtype or p.proconfig is not null)
    loop
      if coalesce(f.path, '') not like '%pg_temp' then
        execute format('alter function %s set search_path = %s, pg_temp', f.signature, coalesce(nullif(f.path, ''), 'public'));
      end if;
    end loop;
    execute format('revoke temporary on database %I from public, kedge_app', current_database());
  end $$`)

  // A session ends when nothing was done in it for as long as its person's roles allow, or a shared computer does.
  await run(`alter table auth.session
    add column active_at timestamptz not null default clock_timestamp(),
    add column shared_computer boolean not null default false`)
  await run('create index session_end on auth.session ("expiresAt")')
}
