import { staff, admin, management, row, type Entries } from './entry'

export const entries: Entries = {
  list: { who: management, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  member: { who: management, input: (o) => ({ staffId: o.staffId }) },
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
  ofChildren: { who: row({ guardian: 'all' }) },
  setMember: {
    who: admin,
    input: (o) => ({
      staffId: o.staffId,
      cells: [{ key: { field: 'phone' }, value: '1', seen: 99 }],
    }),
  },
  setRoles: { who: admin, input: (o) => ({ staffId: o.staffId, seen: 0, roles: ['teacher'] }) },
  resetPassword: { who: admin, input: (o) => ({ staffId: o.staffId, seen: 0, password: 'x' }) },
  deactivate: { who: admin, input: (o) => ({ staffId: o.staffId, seen: 0, lastDay: '2026-11-23' }) },
  reactivate: { who: admin, input: (o) => ({ staffId: o.staffId, seen: 0 }) },
  mailSignIn: { who: admin, input: (o) => ({ staffId: o.staffId }) },
}
