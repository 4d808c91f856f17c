-- What those who run Kedge watch: work that is due, how long it has waited, what was given up, and the last tick of the clock.
create function kedge_queue() returns table(due integer, oldest timestamptz, given_up integer, ticked timestamptz)
  language sql stable security definer
  set search_path = 'public', 'pg_temp'
  as $$
    select count(*) filter (where j.run_at <= now() and j.attempts < j.max_attempts)::integer,
      min(j.run_at) filter (where j.run_at <= now() and j.attempts < j.max_attempts and j.locked_at is null),
      count(*) filter (where j.attempts >= j.max_attempts)::integer,
      (select max(c.last_execution) from graphile_worker._private_known_crontabs c)
    from graphile_worker._private_jobs j
  $$;
revoke all on function kedge_queue() from public;
grant execute on function kedge_queue() to kedge_app;
