import { shortDate } from '@/core/calendar/date-words'
import { defineDomain } from '@/server/platform/define'
import { textOf } from '@/server/platform/words'
import { codeSets, removeCodeSet, saveCodeSet } from './code-sets'
import { correct, correctable } from './correct'
import { endPlanned, planned, removePlanned, savePlanned } from './planned'
import { register } from './register'
import { registersDue, registersOfDay } from './registers-of-day'
import { correctMarks, planAbsences, seeRegisters } from './rights'
import { markRest, setMarks } from './set-marks'

export { loadFigures } from './load-figures'

/** Registers and the codes they are taken with. */
export const attendance = defineDomain({
  name: 'attendance',
  tables: ['attendanceCode', 'attendanceCodeSet', 'attendanceMark', 'plannedAbsence'],
  reads: ['year', 'people'],
  queries: { codeSets, correctable, planned, register, registersOfDay },
  commands: {
    correct,
    setMarks,
    markRest,
    saveCodeSet,
    removeCodeSet,
    savePlanned,
    removePlanned,
    endPlanned,
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
    { name: 'Planned absence', href: '/attendance/planned', right: planAbsences },
    { name: 'Corrections', href: '/attendance/corrections', right: correctMarks },
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
