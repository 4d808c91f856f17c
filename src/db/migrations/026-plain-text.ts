import { sql, type Kysely } from 'kysely'

/**
 * A text as it is compared when somebody looks for it: without accents and case, as the browser compares names. A text
 * without any takes the short way, since every name of a school is compared at every key.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`create function kedge_plain(t text) returns text language sql immutable parallel safe return
    case when octet_length(t) = length(t) then lower(t)
      else lower(regexp_replace(normalize(t, NFKD), '[\\u0300-\\u036f]', '', 'g')) end`.execute(db)
  await sql`grant execute on function kedge_plain to kedge_app`.execute(db)
}
