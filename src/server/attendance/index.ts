import { shortDate } from '@/core/calendar/date-words'
import { defineDomain } from '@/server/platform/define'
import { textOf } from '@/server/platform/words'
import { register } from './register'
import { registersDue, registersOfDay } from './registers-of-day'
import { seeRegisters } from './rights'
import { markRest, setMarks } from './set-marks'

export { loadFigures } from './load-figures'

/** Registers and the codes they are taken with. */
export const attendance = defineDomain({
  name: 'attendance',
  tables: ['attendanceCode', 'attendanceMark'],
  reads: ['year', 'people'],
  queries: { register, registersOfDay },
  commands: { setMarks, markRest },
  due: [registersDue],
  places: [
    {
      name: 'Attendance',
      href: '/attendance/registers',
      also: ['/attendance'],
      right: seeRegisters,
      position: 4,
    },
  ],
  history: {
    attendance_mark: {
      kind: 'Attendance',
      which: (v) => `${shortDate(textOf(v.session_date))}, ${textOf(v.session)}`,
      columns: { code_id: 'mark', minutes_late: 'minutes late', note: 'note' },
    },
    attendance_code: {
      kind: 'Attendance code',
      which: (v) => textOf(v.code),
      columns: { code: 'code', label: 'label' },
      name: "code || ' ' || label",
    },
  },
})
