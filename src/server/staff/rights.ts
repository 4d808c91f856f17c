import { staffRoles } from '@/server/platform/actor'
import { onlyRoles, type Right } from '@/server/platform/rights'

export const seeStaff = onlyRoles('see the accounts of staff', 'administrator', 'head', 'office')
export const ownAddress = onlyRoles('decide whether guardians see their e-mail address', ...staffRoles)
export const addStaff = onlyRoles('create staff accounts', 'administrator')

const ofStaff = { object: 'staffMember', of: ({ staffId }: { staffId: string }) => staffId } as const

export const seeMember: Right<{ staffId: string }> = {
  words: 'see a staff record',
  grants: [{ roles: ['administrator', 'head', 'office'] }],
  ...ofStaff,
}
export const changeStaff: Right<{ staffId: string }> = {
  words: 'change staff records and accounts',
  grants: [{ roles: ['administrator'] }],
  ...ofStaff,
}
