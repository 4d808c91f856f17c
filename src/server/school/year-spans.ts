import { sql, type RawBuilder } from 'kysely'
import type { Context } from '@/server/platform/context'

/** How many of something another academic year has, and a day of it to look at them. */
export interface OtherYear {
  readonly name: string
  readonly date: string
  readonly count: number
}

/**
 * Every day belongs to one academic year for lists: those between two years to the later one, those before and after all
 * of them to the first and the last.
 */
const spans = sql`select y.id, y.name, y.last_day::text as date, coalesce(lag(y.last_day) over inOrder + 1, '-infinity') as starts,
    case when lead(y.id) over inOrder is null then 'infinity' else y.last_day end as ends
  from academic_year y window inOrder as (order by y.first_day)`

/** Whether a day belongs to an academic year, for a list that is bounded by it; all days do where there is none. */
export const inYear = (day: RawBuilder<unknown>, yearId: string | undefined): RawBuilder<boolean> =>
  yearId === undefined
    ? sql<boolean>`true`
    : sql<boolean>`exists (select 1 from (${spans}) span where span.id = ${yearId} and ${day} between span.starts and span.ends)`

/**
 * What a list that is bounded by an academic year leaves out, newest first.
 * @param days a select of `day`, one row for each of what is listed
 */
export async function inOtherYears(
  { db }: Context,
  days: RawBuilder<unknown>,
  yearId: string | undefined,
): Promise<readonly OtherYear[]> {
  if (yearId === undefined) return []
  const { rows } = await sql<OtherYear>`
    select span.name, span.date, count(*)::int as count from (${spans}) span
    join (${days}) d on d.day between span.starts and span.ends
    where span.id <> ${yearId} group by span.name, span.date, span.starts order by span.starts desc`.execute(
    db,
  )
  return rows
}
