import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { awayFrom, goneBy } from '@/server/school/leaving-staff'
import { refuseField } from './messages'

/**
 * Sets who teaches a class or looks after a homeroom from a day on: the others end the day before, and who does it
 * already goes on; nobody has it beyond their last day. Few statements, however many people.
 */
export async function setTeachers(
  context: Context,
  of: { readonly table: 'class_teacher' | 'homeroom_teacher'; readonly column: 'class_id' | 'homeroom_id' },
  id: string,
  staffIds: readonly string[],
  from: string,
): Promise<void> {
  const { db, actor } = context
  const gone = await goneBy(context, staffIds, from)
  if (gone) throw refuseField('staffIds', 'staffGone', gone)
  const table = sql.table(of.table)
  const own = sql`t.${sql.ref(of.column)} = ${id}`
  const others = sql`${own} and t.staff_id <> all(${staffIds}::uuid[])`
  await sql`delete from ${table} t where ${others} and lower(t.period) >= ${from}::date`.execute(db)
  await sql`update ${table} t set period = daterange(lower(t.period), ${from}::date)
    where ${others} and (upper(t.period) is null or upper(t.period) > ${from}::date)`.execute(db)
  await sql`insert into ${table} (school_id, ${sql.ref(of.column)}, staff_id, period)
    select ${actor.schoolId}, ${id}, s.id, daterange(${from}::date, least(${awayFrom('s')}, (
      select min(lower(t.period)) from ${table} t
      where ${own} and t.staff_id = s.id and lower(t.period) > ${from}::date)))
    from staff_member s where s.id = any(${staffIds}::uuid[]) and not exists (
      select 1 from ${table} t where ${own} and t.staff_id = s.id and t.period @> ${from}::date)`.execute(db)
}
