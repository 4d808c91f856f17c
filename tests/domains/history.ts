import { management, row, type Entries } from './entry'

export const entries: Entries = {
  ofStudent: { who: management, input: (o) => ({ studentId: o.studentId }) },
  undo: {
    who: row({ administrator: 'all', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
    input: (_o, as) => ({ run: as.runId }),
  },
}
