import { sql } from 'kysely'
import { z } from 'zod'
import { addDays } from '@/core/calendar/school-year'
import { civilDate, id } from '@/core/inputs'
import { deactivateInput } from '@/core/people/inputs'
import type { Role } from '@/core/people/roles'
import type { Context } from '@/server/platform/context'
import { defineCommand, defineDomain, defineQuery } from '@/server/platform/define'
import { refusals } from '@/server/platform/failure'
import { versionsOfFields } from '@/server/platform/fields'
import { goneBy, goneWords } from '@/server/school/leaving-staff'
import { registersTopic, rollTopic } from '@/server/school/topics'
import {
  accountOf,
  accountIfUnchanged,
  changeStaff,
  closeAccount,
  keepAdministrator,
  rolesInOrder,
  seeMember,
  seeStaff,
  setLastDay,
  signInOf,
  staffTopic,
  type SignIn,
} from '@/server/staff'
import { endCover } from '@/server/timetable'
import { giveUpPosts } from '@/server/year'

const { refuse, refuseField } = refusals('staffing', {
  ownSuccessor: () => 'Choose somebody else to take over their classes.',
  oneself: () => 'You cannot deactivate your own account. Ask another administrator.',
  notActive: () => 'Only a member of staff with an active account can take over.',
  successorGone: goneWords,
})

/** Everyone who works at the school, with their account and what they teach on a date. */
const list = defineQuery({
  input: z.object({ date: civilDate }),
  right: seeStaff,
  topics: () => [staffTopic()],
  run: async ({ db }, { date }) => {
    const { rows } = await sql<{
      id: string
      name: string
      email: string | null
      phone: string | null
      username: string | null
      roles: readonly Role[] | null
      active: boolean | null
      mustChangePassword: boolean | null
      homerooms: string | null
      classes: number
    }>`
      select s.id, s.sort_name as name, s.email, s.phone, a.username, a.roles, a.active, a.must_change_password,
        (select string_agg(h.name, ', ' order by h.name) from homeroom_teacher t join homeroom h on h.school_id = t.school_id and h.id = t.homeroom_id
          where t.staff_id = s.id and t.period @> ${date}::date) as homerooms,
        (select count(*)::int from class_teacher t where t.staff_id = s.id and t.period @> ${date}::date) as classes
      from staff_member s left join lateral ${signInOf('s.id')} a on true
      order by s.sort_name, s.id`.execute(db)
    return rows.map((row) => ({ ...row, roles: rolesInOrder(row.roles) }))
  },
})

/** What a staff member is responsible for on a date or later. */
function duties({ db }: Context, staffId: string, date: string) {
  return db
    .selectFrom('homeroomTeacher as t')
    .innerJoin('homeroom as h', 'h.id', 't.homeroomId')
    .select([sql<string>`'homeroom'`.as('kind'), 'h.id', 'h.name'])
    .where('t.staffId', '=', staffId)
    .where(sql<boolean>`(upper(t.period) is null or upper(t.period) > ${date})`)
    .unionAll(
      db
        .selectFrom('classTeacher as t')
        .innerJoin('class as c', 'c.id', 't.classId')
        .select([sql<string>`'class'`.as('kind'), 'c.id', 'c.name'])
        .where('t.staffId', '=', staffId)
        .where(sql<boolean>`(upper(t.period) is null or upper(t.period) > ${date})`),
    )
    .orderBy('kind', 'desc')
    .orderBy('name')
    .execute()
}

/** One member of staff: record, account, and what they teach. */
const member = defineQuery({
  input: z.object({ staffId: id }),
  right: seeMember,
  topics: () => [staffTopic()],
  run: async (context, { staffId }) => {
    const { db, today } = context
    const [record, { rows }, responsible, mayChange] = await Promise.all([
      db.selectFrom('staffMember').selectAll().where('id', '=', staffId).executeTakeFirstOrThrow(),
      sql<SignIn>`select a.* from staff_member s join lateral ${signInOf('s.id')} a on true where s.id = ${staffId}`.execute(
        db,
      ),
      duties(context, staffId, today),
      context.may(changeStaff, { staffId }),
    ])
    const account = rows[0]
    return {
      id: record.id,
      name: record.sortName,
      version: record.version,
      /** The last day of somebody who leaves or has left. */
      lastDay: record.lastDay,
      fields: {
        givenName: record.givenName,
        familyName: record.familyName,
        email: record.email,
        phone: record.phone,
      },
      versions: versionsOfFields(record),
      account: account && {
        username: account.username,
        roles: rolesInOrder(account.roles),
        active: account.active,
        mustChangePassword: account.mustChangePassword,
      },
      responsible,
      mayChange,
    }
  },
})

const topics = () => [staffTopic(), rollTopic(), registersTopic()]

/**
 * Ends somebody's work at the school. What they teach and cover after the last day goes to a successor or ends; the
 * account closes at once, or by itself after the last day. The name stays wherever it is in the history.
 */
const deactivate = defineCommand({
  input: deactivateInput,
  right: changeStaff,
  undo: { days: 30, whenChangedSince: 'stop', topics },
  run: async (context, { staffId, expectedVersion, lastDay, atOnce, successorId }) => {
    const { actor, today } = context
    const account = await accountIfUnchanged(context, staffId, expectedVersion)
    if (account.accountId === actor.accountId) throw refuse('oneself', {})
    if (account.roles.includes('administrator'))
      await keepAdministrator(context, account.accountId, account.name)
    if (successorId && !(await accountOf(context, successorId))?.active)
      throw refuseField('successorId', 'notActive', {})
    if (successorId === staffId) throw refuseField('successorId', 'ownSuccessor', {})
    const gone = successorId ? await goneBy(context, [successorId], addDays(lastDay, 1)) : undefined
    if (gone) throw refuseField('successorId', 'successorGone', gone)
    const away = addDays(lastDay, 1)
    await giveUpPosts(context, staffId, successorId, away)
    await endCover(context, staffId, away)
    await setLastDay(context, staffId, lastDay)
    if (atOnce || lastDay < today) await closeAccount(context, staffId, account.accountId)
    context.changed(...topics())
    return null
  },
})

/** Who works at the school with what they teach, and how somebody leaves. */
export const staffing = defineDomain({
  name: 'staffing',
  tables: [],
  reads: ['staff', 'account', 'year', 'timetable'],
  queries: { list, member },
  commands: { deactivate },
})
