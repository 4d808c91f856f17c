import { shortDate } from '@/core/calendar/date-words'
import { defineDomain } from '@/server/platform/define'
import { textOf } from '@/server/platform/words'
import { callList, noteCall } from './calls'
import { codeSets, removeCodeSet, saveCodeSet } from './code-sets'
import { correct, correctable } from './correct'
import { endPlanned, endPlannedInLesson, planned, removePlanned, savePlanned } from './planned'
import { figureChoices, figures, sessionsBehind } from './figures'
import { lessonRegister } from './lesson-register'
import { lessonsOfDay, ownLessons } from './lessons-of-day'
import { register } from './register'
import { registersDue, registersOfDay } from './registers-of-day'
import { callFamilies, correctMarks, planAbsences, seeRegisters, openFigures } from './rights'
import { markLessonRest, markRest, setLessonMarks, setMarks } from './set-marks'

export { loadFigures } from './load-figures'

/** Registers and the codes they are taken with. */
export const attendance = defineDomain({
  name: 'attendance',
  tables: ['attendanceCode', 'attendanceCodeSet', 'attendanceMark', 'plannedAbsence', 'absenceCall'],
  reads: ['year', 'people', 'staff', 'timetable'],
  queries: {
    callList,
    codeSets,
    correctable,
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
  due: [registersDue],
  places: [
    {
      name: 'Attendance',
      href: '/attendance/registers',
      also: ['/attendance'],
      right: seeRegisters,
      position: 4,
    },
    { name: 'Lessons', href: '/attendance/lessons', right: seeRegisters },
    { name: 'Call list', href: '/attendance/calls', right: callFamilies },
    { name: 'Planned absence', href: '/attendance/planned', right: planAbsences },
    { name: 'Corrections', href: '/attendance/corrections', right: correctMarks },
    { name: 'Figures', href: '/attendance/figures', right: openFigures },
    { name: 'Attendance codes', href: '/school/codes', right: seeRegisters },
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
    planned_absence: {
      kind: 'Planned absence',
      which: (v) => `${shortDate(textOf(v.first_day))} to ${shortDate(textOf(v.last_day))}`,
      columns: {
        first_day: 'first day',
        last_day: 'last day',
        sessions: 'sessions',
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
