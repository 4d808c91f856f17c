import { admin, management, type Entries } from './entry'

export const entries: Entries = {
  list: { who: management, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  member: { who: management, input: (o) => ({ staffId: o.staffId }) },
  deactivate: {
    who: admin,
    input: (o) => ({ staffId: o.staffId, expectedVersion: 0, lastDay: '2026-11-23' }),
  },
}
