import { sql, type RawBuilder } from 'kysely'

/** Who did something, and when. */
export interface Noted {
  readonly by: string
  readonly at: string
}

/** The latest reminder of each session of a day, by session, of a homeroom or class. */
export const remindersOf = (
  column: 'homeroom_id' | 'class_id',
  of: string,
  date: string,
): RawBuilder<Readonly<Record<string, Noted>>> => sql`
  (select coalesce(jsonb_object_agg(b.session, jsonb_build_object('by', b.reminded_by, 'at', b.reminded_at)), '{}') from (
    select distinct on (r.session) r.session, r.reminded_by, r.reminded_at from register_reminder r
    where r.${sql.ref(column)} = ${sql.ref(of)} and r.session_date = ${date} order by r.session, r.reminded_at desc) b)`

/** What a task says of a reminder. */
export const remindedWords = (reminded: Noted | undefined): string =>
  reminded ? `, ${reminded.by} asks for it` : ''
