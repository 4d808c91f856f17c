import { staff, admin, type Entries } from './entry'

export const entries: Entries = {
  create: {
    who: admin,
    aboutOneself: true,
    input: () => ({
      givenName: 'A',
      familyName: 'B',
      username: 'a.b',
      roles: ['teacher'],
      password: 'short',
    }),
  },
  ownAddress: { who: staff, aboutOneself: true },
  shareAddress: { who: staff, aboutOneself: true, input: () => ({ shared: false }) },
  sessions: { who: admin, input: (o) => ({ staffId: o.staffId }) },
  endSession: { who: admin, input: (o) => ({ staffId: o.staffId, sessionId: 'none' }) },
  setMember: {
    who: admin,
    input: (o) => ({
      staffId: o.staffId,
      cells: [{ key: { field: 'phone' }, value: '1', expectedVersion: 99 }],
    }),
  },
  setRoles: { who: admin, input: (o) => ({ staffId: o.staffId, expectedVersion: 0, roles: ['teacher'] }) },
  resetPassword: { who: admin, input: (o) => ({ staffId: o.staffId, expectedVersion: 0, password: 'x' }) },
  reactivate: { who: admin, input: (o) => ({ staffId: o.staffId, expectedVersion: 0 }) },
  mailSignIn: { who: admin, input: (o) => ({ staffId: o.staffId }) },
}
