import { sql, type Kysely } from 'kysely'

/**
 * What a student and a guardian are found by, kept with their names: the find box compares all names of a school at
 * every key. The database draws it from the names, so it is no part of a history and is never written.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  const run = (statement: string) => sql.raw(statement).execute(db)
  await run(`alter table student add column plain_name text generated always as (
    kedge_plain(sort_name || ' ' || legal_given_name || ' ' || coalesce(lpad(number::text, 4, '0'), ''))) stored`)
  await run(`alter table guardian add column plain_name text generated always as (
    kedge_plain(family_name || ' ' || given_name)) stored`)
  await run(`do $$ begin
    execute replace(pg_get_functiondef('kedge_record_history()'::regprocedure), '''roll_version'']', '''roll_version'', ''plain_name'']');
    execute replace(pg_get_functiondef('kedge_note_fields()'::regprocedure), '''roll_version'', ''changed_by''', '''roll_version'', ''plain_name'', ''changed_by''');
  end $$`)
}
