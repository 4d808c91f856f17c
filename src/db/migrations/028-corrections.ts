import { sql, type Kysely } from 'kysely'
import { limits } from '@/core/limits'

/** Why the office corrected a mark. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `alter table attendance_mark add column reason text check (reason ~ '\\S' and length(reason) <= ${limits.line})`,
    )
    .execute(db)
}
