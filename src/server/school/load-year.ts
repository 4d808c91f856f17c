import { sql, type Transaction } from 'kysely'
import type { Closure, SchoolYear, Term } from '@/core/calendar/school-year'
import type { Tables } from '@/db/tables'

const asked = new WeakMap<Transaction<Tables>, Map<string, Promise<SchoolYear | undefined>>>()

/**
 * The academic year a date lies in, else the one nearest before it, else the first to come.
 * Read once in a transaction, however many parts of it ask.
 * @returns undefined for a school without an academic year
 */
export function loadYear(db: Transaction<Tables>, date: string): Promise<SchoolYear | undefined> {
  const known = asked.get(db) ?? new Map<string, Promise<SchoolYear | undefined>>()
  asked.set(db, known)
  const year = known.get(date) ?? readYear(db, date)
  known.set(date, year)
  return year
}

/** The academic years that have days between two dates, both included, as they stand now. */
export async function yearsBetween(
  db: Transaction<Tables>,
  from: string,
  to: string,
): Promise<readonly SchoolYear[]> {
  const { rows } = await sql<{ date: string }>`
    select greatest(first_day, ${from}::date)::text as date from academic_year
    where first_day <= ${to} and last_day >= ${from} order by first_day`.execute(db)
  const years = await Promise.all(rows.map(({ date }) => readYear(db, date)))
  return years.filter((year) => year !== undefined)
}

async function readYear(db: Transaction<Tables>, date: string): Promise<SchoolYear | undefined> {
  const { rows } = await sql<{
    id: string
    name: string
    firstDay: string
    lastDay: string
    weekdays: number[]
    terms: Term[]
    closures: Closure[]
  }>`
    select y.id, y.name, y.first_day, y.last_day, y.weekdays,
      array(select json_build_object('id', t.id, 'name', t.name, 'firstDay', t.first_day, 'lastDay', t.last_day)
        from term t where t.school_id = y.school_id and t.year_id = y.id order by t.first_day) as terms,
      array(select json_build_object('kind', c.kind, 'name', c.name, 'firstDay', c.first_day, 'lastDay', c.last_day,
          'countedUntil', c.counted_until)
        from closure c where c.school_id = y.school_id and c.year_id = y.id order by c.first_day) as closures
    from academic_year y
    order by y.first_day <= ${date} and ${date} <= y.last_day desc, y.last_day < ${date} desc,
      case when y.last_day < ${date} then y.last_day end desc, y.first_day
    limit 1`.execute(db)
  const year = rows[0]
  return (
    year && {
      id: year.id,
      name: year.name,
      firstDay: year.firstDay,
      lastDay: year.lastDay,
      weekdays: year.weekdays,
      terms: year.terms,
      closures: year.closures,
    }
  )
}
