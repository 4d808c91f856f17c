import { randomUUID } from 'node:crypto'
import { teacherOwnAndLead, teacherOwn, row, type Entries } from './entry'

export const entries: Entries = {
  list: {
    who: row({ administrator: 'all', head: 'all', teacher: 'all' }),
    aboutOneself: true,
    input: () => ({ date: '2026-11-23' }),
  },
  newForm: { who: row({ teacher: 'all' }) },
  create: {
    who: row({ teacher: 'all' }),
    input: (_o, as) => ({
      name: 'x',
      classIds: [as.foreign.classId],
      givenOn: '2026-11-23',
      questions: 1,
      choices: 4,
      points: '1',
    }),
  },
  key: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  answers: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  findings: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  setDocument: {
    who: teacherOwn,
    input: (o) => ({ assessmentId: o.assessmentId, documentId: o.roundId, expectedVersion: 999 }),
  },
  setQuestions: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      expectedVersion: 999,
      questions: [{ id: randomUUID(), key: 'A', choices: 4, points: '1', standardId: null, page: null }],
    }),
  },
  setThresholds: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      expectedVersion: 999,
      secureFrom: '80',
      nearlyFrom: '60',
    }),
  },
  setAnswers: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.assessmentId,
      cells: [{ key: { studentId: o.studentId }, value: null, expectedVersion: 0 }],
    }),
  },
}
