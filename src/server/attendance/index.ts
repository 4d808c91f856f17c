import { shortDate } from '@/core/calendar/date-words'
import { defineDomain } from '@/server/platform/define'
import { textOf } from '@/server/platform/words'
import { followSessions } from '@/server/school/sessions-moved'
import { declineReport, ownReports, reportAbsence, reportsDue, withdrawReport } from './absence-reports'
import { callList, noteCall } from './calls'
import { certificate } from './certificate'
import { codeSets, removeCodeSet, saveCodeSet } from './code-sets'
import { correct, correctable } from './correct'
import { endPlanned, endPlannedInLesson, planned, removePlanned, savePlanned } from './planned'
import { figureChoices, figures, sessionsBehind } from './figures'
import { keepMarksApart, keptMarks } from './kept'
import {
  marksAreOfTheirSet,
  plansAreOfOneRecord,
  plansHaveCodes,
  marksAreOfSchoolDays,
  marksAreOfStudents,
} from './invariants'
import { lessonRegister } from './lesson-register'
import { lessonsOfDay, ownLessons } from './lessons-of-day'
import { inBuilding } from './in-building'
import { letters, lettersToSend, removeLetterTemplate, saveLetterTemplate, sendLetters } from './letters'
import { attendanceLetter, registerReminder } from './mails'
import { remind } from './remind'
import { register } from './register'
import { registersDue, registersOfDay } from './registers-of-day'
import {
  callFamilies,
  correctMarks,
  planAbsences,
  seeRegisters,
  openFigures,
  seeOwnAbsences,
  watchRegisters,
  writeLetters,
} from './rights'
import { sheets } from './sheets'
import { unusual } from './unusual'
import { markLessonRest, markRest, setLessonMarks, setMarks } from './set-marks'

export { loadFigures } from './load-figures'
export { seeFigures } from './rights'

followSessions(keepMarksApart)

/** Registers and the codes they are taken with. */
export const attendance = defineDomain({
  name: 'attendance',
  tables: [
    'attendanceCode',
    'attendanceCodeSet',
    'attendanceMark',
    'plannedAbsence',
    'absenceCall',
    'registerReminder',
    'letterTemplate',
    'absenceReport',
  ],
  reads: ['year', 'people', 'staff', 'timetable', 'mail'],
  queries: {
    callList,
    codeSets,
    correctable,
    certificate,
    inBuilding,
    keptMarks,
    ownReports,
    sheets,
    letters,
    lettersToSend,
    unusual,
    figures,
    figureChoices,
    sessionsBehind,
    lessonRegister,
    lessonsOfDay,
    ownLessons,
    planned,
    register,
    registersOfDay,
  },
  commands: {
    correct,
    noteCall,
    remind,
    declineReport,
    reportAbsence,
    withdrawReport,
    saveLetterTemplate,
    removeLetterTemplate,
    sendLetters,
    setMarks,
    markRest,
    setLessonMarks,
    markLessonRest,
    saveCodeSet,
    removeCodeSet,
    savePlanned,
    removePlanned,
    endPlanned,
    endPlannedInLesson,
  },
  mails: { attendanceLetter, registerReminder },
  due: [registersDue, reportsDue],
  places: [
    {
      name: 'Attendance',
      href: '/attendance',
      right: seeRegisters,
      position: 4,
    },
    ...(
      [
        ['Registers', 'registers', seeRegisters],
        ['Lessons', 'lessons', seeRegisters],
        ['Call list', 'calls', callFamilies],
        ['In the building', 'building', watchRegisters],
        ['Planned absence', 'planned', planAbsences],
        ['Corrections', 'corrections', correctMarks],
        ['Figures', 'figures', openFigures],
        ['Letters', 'letters', writeLetters],
        ['Sheets', 'sheets', seeRegisters],
      ] as const
    ).map(([name, path, right], i) => ({
      name,
      href: `/attendance/${path}`,
      right,
      of: 'Attendance',
      position: i,
    })),
    { name: 'Absences', href: '/absences', right: seeOwnAbsences, position: 4 },
    {
      name: 'Attendance codes',
      href: '/school/codes',
      right: seeRegisters,
      of: 'School',
      group: 'Rules',
      position: 1,
    },
  ],
  invariants: [
    marksAreOfTheirSet,
    plansHaveCodes,
    plansAreOfOneRecord,
    marksAreOfSchoolDays,
    marksAreOfStudents,
  ],
  history: {
    attendance_mark: {
      kind: 'Attendance',
      which: (v) => `${shortDate(textOf(v.session_date))}, ${textOf(v.session)}`,
      columns: { code_id: 'mark', minutes_late: 'minutes late', note: 'note', reason: 'reason' },
    },
    attendance_code: {
      kind: 'Attendance code',
      which: (v) => textOf(v.code),
      columns: {
        code: 'code',
        label: 'label',
        family_label: 'label for families',
        meaning: 'meaning',
        needs_minutes: 'minutes required',
        needs_note: 'note required',
        office_only: 'office only',
      },
      name: "code || ' ' || label",
    },
    absence_call: {
      kind: 'Call to the family',
      which: (v) => shortDate(textOf(v.absent_on)),
      columns: { outcome: 'outcome', note: 'note', call_again: 'call again' },
    },
    letter_template: {
      kind: 'Template of a letter',
      which: (v) => textOf(v.name),
      columns: { name: 'name', subject: 'subject', body: 'text' },
      name: 'name',
    },
    absence_report: {
      kind: 'Absence reported by a guardian',
      which: (v) => `${shortDate(textOf(v.first_day))} to ${shortDate(textOf(v.last_day))}`,
      columns: {
        first_day: 'first day',
        last_day: 'last day',
        sessions: 'sessions',
        reason: 'reason',
        state: 'state',
        answer: 'answer',
      },
    },
    register_reminder: {
      kind: 'Reminder of a register',
      which: (v) => `${shortDate(textOf(v.session_date))}, ${textOf(v.session)}`,
      columns: { reminded_by: 'by' },
    },
    planned_absence: {
      kind: 'Planned absence',
      which: (v) => `${shortDate(textOf(v.first_day))} to ${shortDate(textOf(v.last_day))}`,
      columns: {
        first_day: 'first day',
        last_day: 'last day',
        sessions: 'sessions',
        first_period: 'first period',
        last_period: 'last period',
        code_id: 'code',
        note: 'note',
      },
    },
    attendance_code_set: {
      kind: 'Attendance codes',
      which: (v) => textOf(v.name),
      columns: { name: 'name', first_day: 'first day', last_day: 'last day' },
      name: 'name',
    },
  },
})
