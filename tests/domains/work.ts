import { everyone, staff, ownOfEveryone, row, type Entries } from './entry'

export const entries: Entries = {
  list: { who: staff, aboutOneself: true },
  begin: {
    who: row({ administrator: 'all', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
    input: (_o, as) => ({
      command: 'history.undo',
      input: { run: as.runId },
      preview: true,
    }),
  },
  result: {
    who: row({ administrator: 'own', head: 'own', office: 'own', records: 'own', teacher: 'own' }),
    input: (_o, as) => ({ jobId: as.jobId }),
  },
  cancel: { who: ownOfEveryone, input: (_o, as) => ({ jobId: as.jobId }) },
  retry: { who: ownOfEveryone, input: (_o, as) => ({ jobId: as.jobId }) },
  dismiss: { who: ownOfEveryone, input: (_o, as) => ({ jobId: as.jobId }) },
  noteFetched: { who: everyone, aboutOneself: true, input: (o) => ({ documentId: o.documentId }) },
}
