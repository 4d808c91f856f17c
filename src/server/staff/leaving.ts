/* eslint-disable no-await-in-loop -- two tables; the few who leave on one day */
import { sql } from 'kysely'
import { addDays } from '@/core/calendar/school-year'
import { deactivateInput } from '@/core/people/inputs'
import type { Context } from '@/server/platform/context'
import { defineCommand } from '@/server/platform/define'
import { defineRecurring } from '@/server/platform/recurring'
import { registersTopic, rollTopic } from '@/server/school/topics'
import { awayFrom, goneBy } from '@/server/school/leaving-staff'
import { endCover } from '@/server/timetable'
import { accountOf, accountSeen, endSessions, keepAdministrator } from './accounts'
import { changeStaff } from './rights'
import { staffTopic } from './topics'
import { refuse, refuseField } from './words'

/** What a member of staff holds from a day on goes to a successor, or ends. */
async function giveUp(
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

const close = async (context: Context, staffId: string, accountId: string): Promise<void> => {
  await context.db.updateTable('membership').set({ active: false }).where('personId', '=', staffId).execute()
  await endSessions(context, accountId)
}

const topics = () => [staffTopic(), rollTopic(), registersTopic()]

/**
 * Ends somebody's work at the school. What they teach and cover after the last day goes to a successor or ends; the
 * account closes at once, or by itself after the last day. The name stays wherever it is in the history.
 */
export const deactivate = defineCommand({
  input: deactivateInput,
  right: changeStaff,
  undo: { days: 30, whenChangedSince: 'stop', topics },
  run: async (context, { staffId, seen, lastDay, atOnce, successorId }) => {
    const { db, actor, today } = context
    const account = await accountSeen(context, staffId, seen)
    if (account.accountId === actor.accountId) throw refuse('oneself', {})
    if (account.roles.includes('administrator'))
      await keepAdministrator(context, account.accountId, account.name)
    if (successorId && !(await accountOf(context, successorId))?.active)
      throw refuseField('successorId', 'notActive', {})
    if (successorId === staffId) throw refuseField('successorId', 'ownSuccessor', {})
    const gone = successorId ? await goneBy(context, [successorId], addDays(lastDay, 1)) : undefined
    if (gone) throw refuseField('successorId', 'successorGone', gone)
    const away = addDays(lastDay, 1)
    await giveUp(context, staffId, successorId, away)
    await endCover(context, staffId, away)
    await db.updateTable('staffMember').set({ lastDay }).where('id', '=', staffId).execute()
    if (atOnce || lastDay < today) await close(context, staffId, account.accountId)
    context.changed(...topics())
    return null
  },
})

/** Closes the accounts of those whose last day is over. */
export const closeAccounts = defineRecurring({
  at: '00:05',
  on: 'every day',
  run: async (context, day) => {
    const { rows } = await sql<{ staffId: string; accountId: string }>`
      select distinct s.id as staff_id, m.account_id from staff_member s join membership m on m.person_id = s.id
      where s.last_day < ${day} and m.active and m.role not in ('guardian', 'student')`.execute(context.db)
    for (const { staffId, accountId } of rows) await close(context, staffId, accountId)
    if (rows.length > 0) context.changed(staffTopic())
  },
})
