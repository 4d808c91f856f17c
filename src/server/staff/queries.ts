import { sql } from 'kysely'
import { z } from 'zod'
import { civilDate, id } from '@/core/inputs'
import { roles, type Role } from '@/core/people/roles'
import type { Context } from '@/server/platform/context'
import { defineQuery } from '@/server/platform/define'
import { versionsOfFields } from '@/server/platform/fields'
import { sessionsOf } from '@/server/platform/session-list'
import { changeStaff, seeMember, seeStaff } from './rights'
import { staffTopic } from './topics'

interface AccountOf {
  readonly accountId: string
  readonly username: string | null
  readonly roles: readonly Role[]
  readonly active: boolean
  readonly mustChangePassword: boolean
}

/** A staff member's account at this school, for a lateral join: one row at most. */
const accountOf = (staffId: string) => sql<AccountOf>`(
  select m.account_id, u.username, array_agg(m.role) as roles, bool_or(m.active) as active, bool_or(u."mustChangePassword") as must_change_password
  from membership m join auth."user" u on u.id = m.account_id
  where m.person_id = ${sql.ref(staffId)} and m.role not in ('guardian', 'student') group by m.account_id, u.username limit 1)`

const inOrder = (own: readonly Role[] | null) => roles.filter((role) => own?.includes(role))

/** Everyone who works at the school, with their account and what they teach on a date. */
export const list = defineQuery({
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
      from staff_member s left join lateral ${accountOf('s.id')} a on true
      order by s.sort_name, s.id`.execute(db)
    return rows.map((row) => ({ ...row, roles: inOrder(row.roles) }))
  },
})

/** What a staff member is responsible for on a date or later. */
export function duties({ db }: Context, staffId: string, date: string) {
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
export const member = defineQuery({
  input: z.object({ staffId: id }),
  right: seeMember,
  topics: () => [staffTopic()],
  run: async (context, { staffId }) => {
    const { db, today } = context
    const [record, { rows }, responsible, mayChange] = await Promise.all([
      db.selectFrom('staffMember').selectAll().where('id', '=', staffId).executeTakeFirstOrThrow(),
      sql<AccountOf>`select a.* from staff_member s join lateral ${accountOf('s.id')} a on true where s.id = ${staffId}`.execute(
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
        roles: inOrder(account.roles),
        active: account.active,
        mustChangePassword: account.mustChangePassword,
      },
      responsible,
      mayChange,
    }
  },
})

/** Where a member of staff is signed in at this school. */
export const sessions = defineQuery({
  input: z.object({ staffId: id }),
  right: changeStaff,
  run: async ({ db, actor }, { staffId }) => {
    const { rows } = await sql<AccountOf>`select a.* from staff_member s
      join lateral ${accountOf('s.id')} a on true where s.id = ${staffId}`.execute(db)
    const [account] = rows
    return account ? sessionsOf(account.accountId, { schoolId: actor.schoolId, own: actor.sessionToken }) : []
  },
})
