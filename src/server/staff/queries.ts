import { sql } from 'kysely'
import { z } from 'zod'
import { id } from '@/core/inputs'
import { roles, type Role } from '@/core/people/roles'
import { defineQuery } from '@/server/platform/define'
import { sessionsOf } from '@/server/platform/session-list'
import { changeStaff } from './rights'

/** How somebody of the staff signs in at this school. */
export interface SignIn {
  readonly accountId: string
  readonly username: string | null
  readonly roles: readonly Role[]
  readonly active: boolean
  readonly mustChangePassword: boolean
}

/** A staff member's account at this school, for a lateral join: one row at most. */
export const signInOf = (staffId: string) => sql<SignIn>`(
  select m.account_id, u.username, array_agg(m.role) as roles, bool_or(m.active) as active, bool_or(u."mustChangePassword") as must_change_password
  from membership m join auth."user" u on u.id = m.account_id
  where m.person_id = ${sql.ref(staffId)} and m.role not in ('guardian', 'student') group by m.account_id, u.username limit 1)`

/** Roles as they are listed everywhere. */
export const rolesInOrder = (own: readonly Role[] | null) => roles.filter((role) => own?.includes(role))

/** Where a member of staff is signed in at this school. */
export const sessions = defineQuery({
  input: z.object({ staffId: id }),
  right: changeStaff,
  run: async ({ db, actor }, { staffId }) => {
    const { rows } = await sql<SignIn>`select a.* from staff_member s
      join lateral ${signInOf('s.id')} a on true where s.id = ${staffId}`.execute(db)
    const [account] = rows
    return account ? sessionsOf(account.accountId, { schoolId: actor.schoolId, own: actor.sessionToken }) : []
  },
})
