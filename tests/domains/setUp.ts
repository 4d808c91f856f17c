import { admin, management, type Entries } from './entry'

export const entries: Entries = {
  state: { who: admin, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  check: { who: management, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  enrolledIn: {
    who: management,
    aboutOneself: true,
    input: () => ({ date: '2026-11-23', chosen: [{ by: 'subject', title: 'Science' }] }),
  },
  touchedBy: {
    who: admin,
    aboutOneself: true,
    input: () => ({ firstDay: '2026-11-23', lastDay: '2026-11-23' }),
  },
  saveClass: {
    who: admin,
    input: (o) => ({
      classId: o.classId,
      expectedVersion: 0,
      yearId: o.yearId,
      name: 'x',
      subjectId: o.roundId,
      yearGroupId: o.roundId,
      scaleId: o.roundId,
      termIds: [o.termId],
      staffIds: [],
      homeroomIds: [],
      from: '2020-01-01',
    }),
  },
}
