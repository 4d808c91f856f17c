import { sql, type Kysely } from 'kysely'

/**
 * The policies ask once for each statement which school is set, not once for each row: in a pass over many rows that
 * took a quarter of the time.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`do $$
    declare own record;
    begin
      for own in
        select tablename, case tablename when 'school' then 'id' else 'school_id' end as key
        from pg_policies where schemaname = 'public' and policyname = 'own_school'
      loop
        execute format('alter policy own_school on %I using (%I = (select kedge_school())) with check (%I = (select kedge_school()))',
          own.tablename, own.key, own.key);
      end loop;
    end $$`.execute(db)
}
