import { sql, type RawBuilder } from 'kysely'
import { shortDate } from '@/core/calendar/date-words'
import type { Context } from '@/server/platform/context'

/** The first day on which a member of staff is no longer at the school; null for those who stay. */
export const awayFrom = (staff: string): RawBuilder<string | null> => sql`${sql.ref(staff)}.last_day + 1`

/** The first in name order of some members of staff whose last day lies before a date, or undefined. */
export async function goneBy(
  { db }: Context,
  staffIds: readonly string[],
  date: string,
): Promise<{ readonly name: string; readonly lastDay: string } | undefined> {
  const { rows } = await sql<{ name: string; lastDay: string }>`
    select given_name || ' ' || family_name as name, last_day::text from staff_member
    where id = any(${staffIds}::uuid[]) and last_day < ${date} order by sort_name limit 1`.execute(db)
  return rows[0]
}

/** Why somebody cannot be given something from a date on. */
export const goneWords = ({ name, lastDay }: { name: string; lastDay: string }) =>
  `${name} is at the school until ${shortDate(lastDay, true)} only. Choose somebody else, or an earlier day.`
