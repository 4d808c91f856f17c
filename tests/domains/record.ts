import { staff, adminAndOffice, type Entries } from './entry'

export const entries: Entries = {
  short: { who: staff, input: (o) => ({ studentId: o.studentId, date: '2026-11-23' }) },
  merge: { who: adminAndOffice, input: (o) => ({ keepId: o.studentId, dropId: o.studentId }) },
}
