import { sql } from 'kysely'
import { bestFirst, defineDomain, holdsAll, plainText, type Found } from '@/server/platform/define'
import { whereMay } from '@/server/platform/rights'
import { textOf } from '@/server/platform/words'
import { create, endSession, mailSignIn, reactivate, resetPassword, setMember, setRoles } from './accounts'
import { closeAccounts } from './leaving'
import { accountOpened } from './mails'
import { ownAddress, shareAddress } from './own-address'
import { sessions } from './queries'
import { seeMember, seeStaff } from './rights'

export { accountOf, accountIfUnchanged, keepAdministrator } from './accounts'
export { closeAccount, setLastDay } from './leaving'
export { rolesInOrder, signInOf, type SignIn } from './queries'
export { changeStaff, seeMember, seeStaff } from './rights'
export { staffTopic } from './topics'

/** Who works at the school, and their accounts. */
export const staff = defineDomain({
  name: 'staff',
  tables: ['staffMember'],
  reads: ['account'],
  writes: ['account'],
  queries: { sessions, ownAddress },
  commands: {
    create,
    setMember,
    setRoles,
    resetPassword,
    reactivate,
    mailSignIn,
    endSession,
    shareAddress,
  },
  mails: { accountOpened },
  recurring: { closeAccounts },
  find: [
    (context, words) => sql<Found>`
      select 'staff' as kind, s.id, s.sort_name as name, 'staff' as detail, '/school/staff/' || s.id as href
      from staff_member s where ${holdsAll(plainText(sql`s.sort_name || ' ' || s.given_name`), words)}
        and ${whereMay(context, seeMember, sql.ref('s.id'))} order by ${bestFirst(plainText(sql.ref('s.sort_name')), words)}, s.sort_name limit 8`,
  ],
  places: [
    {
      name: 'Staff accounts',
      href: '/school/staff',
      right: seeStaff,
      of: 'School',
      group: 'Running it',
      position: 1,
    },
  ],
  history: {
    staff_member: {
      kind: 'Staff record',
      which: (v) => [v.given_name, v.family_name].map(textOf).join(' ').trim(),
      columns: {
        given_name: 'given name',
        family_name: 'family name',
        email: 'e-mail',
        phone: 'telephone',
        last_day: 'last day',
        email_for_guardians: 'guardians see the e-mail',
      },
      name: "given_name || ' ' || family_name",
    },
  },
})
