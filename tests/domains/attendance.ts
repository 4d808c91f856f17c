import type { Random } from '@/demo/random'
import type { World } from '../walks/world'
import { v7 as uuid } from 'uuid'
import {
  staff,
  office,
  admin,
  teacherOwnAndOffice,
  management,
  row,
  type Entries,
  type Objects,
} from './entry'

const mark = (o: Objects) => ({
  homeroomId: o.homeroomId,
  date: '2026-11-23',
  session: 'morning',
})
const figuresOf = (o: Objects) => ({
  kind: 'class',
  id: o.classId,
  from: '2026-09-01',
  to: '2026-12-18',
  date: '2026-11-23',
  sessions: 'half-days',
})
const lettersOf = (o: Objects) => ({
  templateId: o.templateId,
  expectedVersion: 0,
  studentIds: [o.studentId],
  from: '2026-09-01',
  date: '2026-11-23',
  sessions: 'half-days',
  classId: null,
  again: false,
})

const schoolDays = ['2026-11-16', '2026-11-18', '2026-11-20', '2026-11-23', '2026-11-23', '2026-11-23']
const onADay = (random: Random) => ({ date: random.pick(schoolDays) })
const onDays = (random: Random) => {
  const [firstDay, lastDay] = [random.pick(schoolDays), random.pick([...schoolDays, '2026-11-27'])].sort()
  return { firstDay, lastDay }
}
/** Marks as they are entered: a code that is in use, minutes where it may have some. */
const marksOf = (random: Random, world: World, drawn: { cells: readonly object[] }, session: string) => ({
  ...onADay(random),
  session,
  cells: drawn.cells.map((cell) => ({
    ...cell,
    value: { codeId: random.below(5) === 0 ? null : random.pick(world.codes), minutesLate: null, note: null },
  })),
})

export const entries: Entries = {
  registersOfDay: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  codeSets: { who: staff, aboutOneself: true },
  correctable: { who: office, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  planned: { who: office, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  callList: { who: office, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  noteCall: {
    who: office,
    input: (o) => ({
      studentId: o.studentId,
      date: '2026-11-23',
      guardianId: null,
      outcome: 'no answer',
      note: null,
      callAgain: null,
      codeId: null,
    }),
  },
  savePlanned: {
    who: office,
    input: (o) => ({
      plannedId: null,
      expectedVersion: 0,
      studentId: o.studentId,
      firstDay: '2027-02-01',
      lastDay: '2027-02-01',
      sessions: 'morning',
      codeId: o.roundId,
      note: null,
    }),
    draw: (random) => ({
      ...onDays(random),
      plannedId: null,
      sessions: random.pick(['whole day', 'morning']),
      firstPeriod: null,
      lastPeriod: null,
    }),
  },
  removePlanned: {
    who: office,
    aboutOneself: true,
    input: (o) => ({ plannedId: o.classId, expectedVersion: 0 }),
  },
  endPlanned: {
    who: teacherOwnAndOffice,
    input: (o) => ({
      homeroomId: o.homeroomId,
      date: '2026-11-23',
      plannedId: o.classId,
      expectedVersion: 0,
    }),
  },
  correct: {
    who: office,
    input: (o) => ({
      studentIds: [o.studentId],
      firstDay: '2026-11-20',
      lastDay: '2026-11-20',
      sessions: ['morning'],
      codeId: o.roundId,
      note: null,
      reason: 'The ferry did not run',
      replace: false,
    }),
    draw: (random) => ({
      ...onDays(random),
      sessions: [random.pick(['morning', 'afternoon'])],
      reason: 'The ferry did not run',
      replace: random.below(3) > 0,
    }),
  },
  lessonRegister: { who: staff, input: (o) => ({ classId: o.classId, date: '2026-11-23', session: '1' }) },
  setLessonMarks: {
    who: staff,
    input: (o) => ({
      classId: o.classId,
      date: '2026-11-23',
      session: '1',
      cells: [
        {
          key: { studentId: o.studentId },
          value: { codeId: null, minutesLate: null, note: null },
          expectedVersion: 0,
        },
      ],
    }),
    draw: (random, world, drawn) => marksOf(random, world, drawn, random.pick(['1', '2', '3', '4', '5'])),
  },
  markLessonRest: {
    who: staff,
    input: (o) => ({
      classId: o.classId,
      date: '2026-11-23',
      session: '1',
      codeId: o.roundId,
    }),
    draw: (random, world) => ({
      ...onADay(random),
      session: random.pick(['1', '2', '3', '4', '5']),
      codeId: world.codes.at(-4) ?? random.pick(world.codes),
    }),
  },
  endPlannedInLesson: {
    who: teacherOwnAndOffice,
    input: (o) => ({
      classId: o.classId,
      date: '2026-11-23',
      plannedId: o.roundId,
      expectedVersion: 0,
    }),
  },
  lessonsOfDay: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  ownLessons: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  unusual: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  figures: { who: teacherOwnAndOffice, input: (o) => figuresOf(o) },
  sessionsBehind: { who: teacherOwnAndOffice, input: (o) => figuresOf(o) },
  certificate: {
    who: teacherOwnAndOffice,
    input: (o) => ({
      id: o.studentId,
      from: '2026-09-01',
      to: '2026-12-18',
      date: '2026-11-23',
    }),
  },
  figureChoices: { who: staff, aboutOneself: true, input: () => ({ date: '2026-11-23' }) },
  inBuilding: { who: office, aboutOneself: true },
  keptMarks: { who: office, aboutOneself: true },
  sheets: {
    who: staff,
    aboutOneself: true,
    input: (o) => ({ date: '2026-11-23', of: 'homerooms', id: o.homeroomId }),
  },
  remind: {
    who: office,
    aboutOneself: true,
    input: (o) => ({
      homeroomId: o.homeroomId,
      classId: null,
      date: '2027-11-23',
      session: 'morning',
    }),
  },
  letters: { who: management, aboutOneself: true },
  lettersToSend: { who: management, input: (o) => lettersOf(o) },
  saveLetterTemplate: {
    who: management,
    aboutOneself: true,
    input: () => ({
      templateId: null,
      expectedVersion: 0,
      name: `Letter ${Math.random()}`,
      subject: 'x',
      body: 'x',
    }),
  },
  removeLetterTemplate: {
    who: management,
    aboutOneself: true,
    input: (o) => ({ templateId: o.roundId, expectedVersion: 0 }),
  },
  sendLetters: { who: management, input: (o) => lettersOf(o) },
  ownReports: { who: row({ guardian: 'all' }) },
  reportAbsence: {
    who: row({ guardian: 'own' }),
    input: (o, as) => ({
      studentId: as.role === 'guardian' && as.isOwn ? o.childId : o.studentId,
      firstDay: '2020-01-01',
      lastDay: '2020-01-01',
      sessions: 'morning',
      reason: 'Fever',
    }),
    draw: (random) => onDays(random),
  },
  withdrawReport: {
    who: row({ guardian: 'all' }),
    input: (o) => ({ reportId: o.roundId, expectedVersion: 0 }),
  },
  declineReport: {
    who: office,
    aboutOneself: true,
    input: (o) => ({ reportId: o.roundId, expectedVersion: 0, answer: 'x' }),
  },
  saveCodeSet: {
    who: admin,
    aboutOneself: true,
    input: () => ({
      setId: null,
      expectedVersion: 0,
      name: 'Another set',
      firstDay: '2018-01-01',
      lastDay: '2018-12-31',
      codes: (['present', 'absent without reason'] as const).map((meaning, i) => ({
        id: uuid(),
        code: i === 0 ? 'P' : 'A',
        label: meaning,
        familyLabel: null,
        meaning,
        needsMinutes: false,
        needsNote: false,
        officeOnly: false,
      })),
    }),
  },
  removeCodeSet: { who: admin, aboutOneself: true, input: (o) => ({ setId: o.classId, expectedVersion: 0 }) },
  register: { who: staff, input: (o) => mark(o) },
  setMarks: {
    who: staff,
    input: (o) => ({
      ...mark(o),
      cells: [
        {
          key: { studentId: o.studentId },
          value: { codeId: null, minutesLate: null, note: null },
          expectedVersion: 0,
        },
      ],
    }),
    draw: (random, world, drawn) => marksOf(random, world, drawn, random.pick(['morning', 'afternoon'])),
  },
  markRest: {
    who: staff,
    input: (o) => ({ ...mark(o), codeId: o.roundId }),
    draw: (random, world) => ({
      ...onADay(random),
      session: random.pick(['morning', 'afternoon']),
      codeId: world.codes.at(-4) ?? random.pick(world.codes),
    }),
  },
}
