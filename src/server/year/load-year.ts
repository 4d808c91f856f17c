import type { Transaction } from 'kysely'
import type { SchoolYear } from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'

/**
 * The academic year a date lies in, else the one nearest before it, else the first to come.
 * @returns undefined for a school without an academic year
 */
export async function loadYear(db: Transaction<Tables>, date: string): Promise<SchoolYear | undefined> {
  const years = await db.selectFrom('academic_year').selectAll().orderBy('first_day').execute()
  const year =
    years.find((y) => y.first_day <= date && date <= y.last_day) ??
    years.findLast((y) => y.last_day < date) ??
    years[0]
  if (!year) return undefined
  const [terms, closures] = await Promise.all([
    db.selectFrom('term').selectAll().where('year_id', '=', year.id).orderBy('first_day').execute(),
    db.selectFrom('closure').selectAll().where('year_id', '=', year.id).orderBy('first_day').execute(),
  ])
  const span = (row: { name: string; first_day: string; last_day: string }) => ({
    name: row.name,
    firstDay: row.first_day,
    lastDay: row.last_day,
  })
  return {
    id: year.id,
    ...span(year),
    weekdays: year.weekdays,
    terms: terms.map((t) => ({ id: t.id, ...span(t) })),
    closures: closures.map((c) => ({ kind: c.kind, ...span(c) })),
  }
}
