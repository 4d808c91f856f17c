import { lead, teacherOwnAndLead, teacherOwn, printers, row, type Entries, type Objects } from './entry'

const classEntries = (o: Objects) => ({ roundId: o.roundId, classId: o.classId })

export const entries: Entries = {
  rounds: {
    input: () => ({ date: '2026-11-23' }),
    who: row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
    aboutOneself: true,
  },
  round: {
    who: row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
    input: (o) => ({ roundId: o.roundId }),
  },
  classEntries: { who: teacherOwnAndLead, input: (o) => classEntries(o) },
  feeds: {
    who: row({ administrator: 'all', head: 'all', office: 'all', teacher: 'all' }),
    aboutOneself: true,
    input: (o) => ({ roundId: o.roundId }),
  },
  saveFeeds: {
    who: teacherOwnAndLead,
    input: (o) => ({
      roundId: o.roundId,
      feeds: [{ classId: o.classId, lineId: o.roundId, columnId: null, expectedVersion: 999 }],
    }),
  },
  setEntries: {
    who: teacherOwn,
    input: (o) => ({
      ...classEntries(o),
      cells: [
        {
          key: { studentId: o.studentId },
          value: { effort: null, comment: 'x'.repeat(5000) },
          expectedVersion: 0,
        },
      ],
    }),
    draw: (random, _world, drawn) => ({
      cells: drawn.cells.map((cell: object) => ({
        ...cell,
        value: {
          effort: random.pick(['good', 'low', null]),
          comment: random.pick(['', 'Explains ideas clearly.']),
        },
      })),
    }),
  },
  fillBlank: { who: teacherOwn, input: (o) => ({ ...classEntries(o), field: 'effort', value: 'none' }) },
  handIn: {
    who: teacherOwn,
    input: (o) => ({ ...classEntries(o), expectedVersion: 999, withBlanks: false }),
  },
  takeBack: { who: teacherOwn, input: (o) => ({ ...classEntries(o), expectedVersion: 999 }) },
  check: { who: lead, input: (o) => ({ ...classEntries(o), expectedVersion: 999 }) },
  sendBack: { who: lead, input: (o) => ({ ...classEntries(o), expectedVersion: 999, remark: 'x' }) },
  cardPreview: {
    who: printers,
    input: (o) => ({ roundId: o.roundId, homeroomId: o.homeroomId, studentId: o.studentId }),
  },
  cardList: { who: printers, input: (o) => ({ roundId: o.roundId, homeroomId: o.homeroomId }) },
  askForCards: { who: printers, input: (o) => ({ roundId: o.roundId, homeroomId: o.homeroomId }) },
  cardsToPrint: { who: printers, input: (o) => ({ roundId: o.roundId, homeroomId: o.homeroomId }) },
  keepPrint: {
    who: printers,
    input: (o) => ({
      roundId: o.roundId,
      homeroomId: o.homeroomId,
      jobId: crypto.randomUUID(),
      name: 'x',
      bytes: Buffer.from('x'),
      pageCount: 1,
    }),
  },
  askForRelease: { who: lead, input: (o) => ({ roundId: o.roundId }) },
  cardsToRelease: { who: lead, input: (o) => ({ roundId: o.roundId }) },
  cardToRelease: { who: lead, input: (o) => ({ roundId: o.roundId, studentId: o.studentId }) },
  keepIssue: {
    who: lead,
    input: (o) => ({
      roundId: o.roundId,
      studentId: o.studentId,
      card: {},
      bytes: Buffer.from('x'),
      pageCount: 1,
    }),
  },
  finishRelease: { who: lead, input: (o) => ({ roundId: o.roundId, checkedBefore: '2020-01-01T00:00:00Z' }) },
  myCards: { who: row({ guardian: 'all' }) },
}
