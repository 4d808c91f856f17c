import { admin, management, type Entries } from './entry'

export const entries: Entries = {
  list: { who: management, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  member: { who: management, input: (o) => ({ staffId: o.staffId }) },
  deactivate: {
    who: admin,
    input: (o) => ({ staffId: o.staffId, expectedVersion: 0, lastDay: '2026-11-23' }),
    draw: (random) => ({
      lastDay: random.pick(['2026-11-20', '2026-11-23', '2026-11-24', '2026-11-25', '2026-12-18']),
      atOnce: random.below(4) === 0,
    }),
  },
}
