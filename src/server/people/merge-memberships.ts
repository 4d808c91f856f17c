/* eslint-disable no-await-in-loop -- the few kinds of membership */
import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'

/** Memberships of which there is one at a time, or one of each place, with the columns that go along. */
const tables = [
  { table: 'enrolment', place: 'year_group_id', also: ['year_id'], onePlace: true },
  { table: 'homeroom_member', place: 'homeroom_id', also: [], onePlace: true },
  { table: 'class_member', place: 'class_id', also: [], onePlace: false },
  { table: 'analysis_group_member', place: 'group_id', also: [], onePlace: false },
] as const

/**
 * Moves the memberships of one student to another. Days on which the other belongs somewhere already are left out:
 * to a year group and a homeroom one belongs alone, to a class or a group once.
 */
export async function mergeMemberships({ db }: Context, keepId: string, dropId: string): Promise<void> {
  for (const { table, place, also, onePlace } of tables) {
    const columns = sql.join([place, ...also].map((column) => sql.ref(column)))
    const own = sql.join([place, ...also].map((column) => sql`m.${sql.ref(column)}`))
    const held = sql`select range_agg(k.period) from ${sql.table(table)} k where k.student_id = ${keepId}
      ${onePlace ? sql`` : sql`and k.${sql.ref(place)} = m.${sql.ref(place)}`}`
    await sql`insert into ${sql.table(table)} (school_id, student_id, ${columns}, period)
      select m.school_id, ${keepId}, ${own}, days.period from ${sql.table(table)} m
      cross join unnest(datemultirange(m.period) - coalesce((${held}), '{}'::datemultirange)) as days(period)
      where m.student_id = ${dropId}`.execute(db)
    await sql`delete from ${sql.table(table)} where student_id = ${dropId}`.execute(db)
  }
}
