import { sql, type Kysely } from 'kysely'

/** Who an account is at a school, answered in one statement: each request asks it before anything else. */
export async function up(db: Kysely<unknown>): Promise<void> {
  // Runs with the caller's rights; what it sets for row-level security lasts as long as the transaction.
  await sql`create function kedge_actor(account text, at_school uuid)
    returns table (username text, name text, school_id uuid, school_name text, time_zone text, role text, person_id uuid)
    language plpgsql volatile set search_path = public as $$
    #variable_conflict use_column
    declare found membership;
    begin
      perform set_config('kedge.account', account, true);
      perform set_config('kedge.school', coalesce(at_school::text, ''), true);
      select m.* into found from membership m
        where m.account_id = account and m.active and (at_school is null or m.school_id = at_school)
        order by m.school_id limit 1;
      if not found.active then return; end if;
      perform set_config('kedge.school', found.school_id::text, true);
      return query select u.username, found.name, found.school_id, s.name, s.time_zone, found.role, found.person_id
        from school s join auth."user" u on u.id = account where s.id = found.school_id;
    end $$`.execute(db)
  await sql`revoke execute on function kedge_actor from public`.execute(db)
  await sql`grant execute on function kedge_actor to kedge_app`.execute(db)
}
