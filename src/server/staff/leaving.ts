/* eslint-disable no-await-in-loop -- the few who leave on one day */
import { sql } from 'kysely'
import type { Context } from '@/server/platform/context'
import { defineRecurring } from '@/server/platform/recurring'
import { endSessions } from './accounts'
import { staffTopic } from './topics'

/** Closes an account at this school at once. */
export const closeAccount = async (context: Context, staffId: string, accountId: string): Promise<void> => {
  await context.db.updateTable('membership').set({ active: false }).where('personId', '=', staffId).execute()
  await endSessions(context, accountId)
}

/** The last day of somebody who leaves. */
export const setLastDay = ({ db }: Context, staffId: string, lastDay: string) =>
  db.updateTable('staffMember').set({ lastDay }).where('id', '=', staffId).execute()

/** Closes the accounts of those whose last day is over. */
export const closeAccounts = defineRecurring({
  at: '00:05',
  on: 'every day',
  run: async (context, day) => {
    const { rows } = await sql<{ staffId: string; accountId: string }>`
      select distinct s.id as staff_id, m.account_id from staff_member s join membership m on m.person_id = s.id
      where s.last_day < ${day} and m.active and m.role not in ('guardian', 'student')`.execute(context.db)
    for (const { staffId, accountId } of rows) await closeAccount(context, staffId, accountId)
    if (rows.length > 0) context.changed(staffTopic())
  },
})
