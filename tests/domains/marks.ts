import { usualSettings } from '@/core/marks/usual-settings'
import { lead, row, staff, teacherOwnAndLead, teacherOwn, type Entries, type Objects } from './entry'

const assignmentOf = (o: Objects) => ({
  classId: o.classId,
  name: 'x',
  categoryId: o.roundId,
  maxPoints: '10',
  dueOn: '2026-11-23',
  counts: true,
})

const term = (o: Objects) => ({ termId: o.termId, periodId: null })

const settings = (o: Objects) => ({
  termId: o.termId,
  targets: [{ classId: o.classId, expectedVersion: 999 }],
  ...usualSettings,
})

export const entries: Entries = {
  gradebook: { who: teacherOwnAndLead, input: (o) => ({ classId: o.classId, date: '2026-11-23' }) },
  scoreHistory: {
    who: teacherOwnAndLead,
    input: (o) => ({
      classId: o.classId,
      assignmentId: o.assignmentId,
      studentId: o.studentId,
    }),
  },
  linkedTo: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  linkTargets: { who: teacherOwnAndLead, input: (o) => ({ assessmentId: o.assessmentId }) },
  classes: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  setScores: {
    who: teacherOwn,
    input: (o) => ({
      classId: o.classId,
      cells: [
        { key: { assignmentId: o.assignmentId, studentId: o.studentId }, value: null, expectedVersion: 999 },
      ],
    }),
    draw: (random, _world, drawn) => ({
      cells: (drawn.cells as object[]).map((cell) => ({
        ...cell,
        value: random.pick([
          { kind: 'points', points: '7.5' },
          { kind: 'points', points: '0' },
          { kind: 'missing' },
          { kind: 'excused' },
          { kind: 'incomplete' },
          { kind: 'points', points: '3', late: true },
          null,
        ]),
      })),
    }),
  },
  settingsOffers: { who: teacherOwn, input: (o) => ({ classId: o.classId, termId: o.termId }) },
  settingsPreview: { who: teacherOwn, input: settings },
  saveSettings: { who: teacherOwn, input: settings },
  periodMarks: { who: teacherOwnAndLead, input: (o) => ({ classId: o.classId, period: term(o) }) },
  heldMark: {
    who: teacherOwnAndLead,
    input: (o) => ({ classId: o.classId, period: term(o), studentId: o.studentId }),
  },
  confirmMarks: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, period: term(o), expectedVersion: 999, withBlanks: true }),
  },
  takeBackMarks: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, period: term(o), expectedVersion: 999 }),
  },
  closeMarks: {
    who: lead,
    input: (o) => ({ period: term(o), targets: [{ classId: o.classId, expectedVersion: 999 }] }),
  },
  reopenMarks: {
    who: row({ administrator: 'all', head: 'all', office: 'all' }),
    input: (o) => ({ classId: o.classId, period: term(o), expectedVersion: 999, reason: 'x' }),
  },
  mine: { who: row({ guardian: 'all' }), aboutOneself: true, input: () => ({}) },
  copyAssignment: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, assignmentId: o.assignmentId, withScores: true }),
  },
  orderAssignments: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, termId: o.termId, ids: [] }),
  },
  setScoreNotes: {
    who: teacherOwn,
    input: (o) => ({
      classId: o.classId,
      cells: [
        {
          key: { assignmentId: o.assignmentId, studentId: o.studentId },
          value: 'Came to see me about it.',
          expectedVersion: 0,
        },
      ],
    }),
  },
  setColumnEntries: {
    who: teacherOwn,
    input: (o) => ({
      classId: o.classId,
      cells: [{ key: { columnId: o.roundId, studentId: o.studentId }, value: 'good', expectedVersion: 0 }],
    }),
  },
  saveColumn: {
    who: teacherOwn,
    input: (o) => ({
      classId: o.classId,
      columnId: null,
      expectedVersion: 0,
      termId: o.termId,
      name: 'Best',
      does: 'best',
      take: 2,
      decimals: 1,
      parts: [{ operand: { of: 'marks', termId: o.termId, periodId: null }, weight: '1' }],
      levels: [{ name: 'secure', from: '80' }],
    }),
  },
  removeColumn: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, columnId: o.roundId, expectedVersion: 999 }),
  },
  createAssignment: {
    who: teacherOwn,
    input: assignmentOf,
  },
  saveAssignment: {
    who: teacherOwn,
    input: (o) => ({
      ...assignmentOf(o),
      assignmentId: o.roundId,
      expectedVersion: 999,
    }),
  },
  removeAssignment: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, assignmentId: o.roundId, expectedVersion: 999 }),
  },
  unlinkAssessment: {
    who: teacherOwn,
    input: (o) => ({ classId: o.classId, assignmentId: o.assignmentId, expectedVersion: 999 }),
  },
  linkAssessment: {
    who: teacherOwn,
    input: (o) => ({
      assessmentId: o.roundId,
      targets: [{ classId: o.classId, categoryId: o.categoryId }],
    }),
  },
}
