import { admin, type Entries } from './entry'

export const entries: Entries = {
  plan: { who: admin, input: (o) => ({ termId: o.termId }) },
  forward: {
    who: admin,
    input: (o) => ({
      fromTermId: o.termId,
      toTermId: o.roundId,
      classIds: [o.classId],
      withStudents: true,
    }),
  },
}
