/* eslint-disable no-await-in-loop -- two tables */
import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { awayFrom } from '@/server/school/leaving-staff'

/** What a member of staff holds from a day on goes to a successor, or ends. */
export async function giveUpPosts(
  { db, actor }: Context,
  staffId: string,
  successorId: string | null,
  away: string,
): Promise<void> {
  for (const { table, place } of [
    { table: 'homeroom_teacher', place: 'homeroom_id' },
    { table: 'class_teacher', place: 'class_id' },
  ] as const) {
    const [of, at] = [sql.table(table), sql.ref(place)]
    // Who has it already for all of that time, or a part, is not given it twice.
    if (successorId)
      // A successor who leaves, too, has it until then.
      await sql`insert into ${of} (school_id, ${at}, staff_id, period)
        select ${actor.schoolId}, t.${at}, ${successorId}, free.period from ${of} t
        cross join unnest(datemultirange(t.period * daterange(${away}::date, (
          select ${awayFrom('s')} from staff_member s where s.id = ${successorId}))) - coalesce((
          select range_agg(o.period) from ${of} o where o.staff_id = ${successorId} and o.${at} = t.${at}), '{}'::datemultirange))
          as free(period)
        where t.staff_id = ${staffId} and (upper(t.period) is null or upper(t.period) > ${away}::date)`.execute(
        db,
      )
    await sql`delete from ${of} where staff_id = ${staffId} and lower(period) >= ${away}::date`.execute(db)
    await sql`update ${of} set period = daterange(lower(period), ${away}::date)
      where staff_id = ${staffId} and (upper(period) is null or upper(period) > ${away}::date)`.execute(db)
  }
}
