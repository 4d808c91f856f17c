/* eslint-disable no-await-in-loop -- locks are taken in one order */
import { sql } from 'kysely'
import { addDays } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'

const lockOf = (table: 'attendanceCodeSet' | 'timetable', schoolId: string) =>
  sql`hashtextextended(${`${table} ${schoolId}`}, 5)`

/**
 * Holds still what is in use on which day while something that rests on it is saved: many may at once, but nobody
 * changes the sets of codes or the timetables meanwhile. Comes before what is read of them.
 */
export async function holdStill(
  { db, actor }: Context,
  table: 'attendanceCodeSet' | 'timetable',
): Promise<void> {
  await sql`select pg_advisory_xact_lock_shared(${lockOf(table, actor.schoolId)})`.execute(db)
}

interface InUse {
  readonly id: string
  readonly name: string
  readonly firstDay: string
  readonly lastDay: string | null
}

/**
 * Makes room among things of which one is in use on a day: sets of codes, timetables. One that is open-ended and began
 * earlier ends the day before; any other overlap is refused. Two who do this at once come one after the other, so that
 * the second hears of the first in words.
 * @param overlaps the refusal for one that stays
 */
export async function makeRoomAmong(
  { db, actor }: Context,
  table: 'attendanceCodeSet' | 'timetable',
  { id, firstDay, lastDay }: Omit<InUse, 'name'>,
  overlaps: (other: InUse) => Error,
): Promise<void> {
  await sql`select pg_advisory_xact_lock(${lockOf(table, actor.schoolId)})`.execute(db)
  const others = await db
    .selectFrom(table)
    .select(['id', 'name', 'firstDay', 'lastDay'])
    .where('id', '!=', id)
    .where((eb) => eb.or([eb('lastDay', 'is', null), eb('lastDay', '>=', firstDay)]))
    .where((eb) => (lastDay ? eb('firstDay', '<=', lastDay) : eb.val(true)))
    .orderBy('firstDay')
    .forUpdate()
    .execute()
  for (const other of others) {
    if (other.lastDay !== null || other.firstDay >= firstDay) throw overlaps(other)
    await db
      .updateTable(table)
      .set({ lastDay: addDays(firstDay, -1) })
      .where('id', '=', other.id)
      .execute()
  }
}
