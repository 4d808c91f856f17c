import {
  addDays,
  dayKind,
  nearestSchoolDay,
  weekday,
  type CivilDate,
  type SchoolYear,
} from '@/core/calendar/school-year'
import type { Random } from './random'

const mondayFrom = (date: CivilDate) => addDays(date, (8 - weekday(date)) % 7)

/** Wrackline's academic year that begins in a September: three terms, each with a mid-term break. */
export function wracklineYear(september: number, random: Random): SchoolYear {
  const next = september + 1
  const week = (date: CivilDate, name: string) => {
    const firstDay = mondayFrom(date)
    return { kind: 'break' as const, name, firstDay, lastDay: addDays(firstDay, 4) }
  }
  return {
    id: random.uuid(),
    name: `${september}/${String(next).slice(2)}`,
    firstDay: `${september}-09-01`,
    lastDay: `${next}-07-16`,
    weekdays: [1, 2, 3, 4, 5],
    terms: [
      { id: random.uuid(), name: 'Autumn', firstDay: `${september}-09-01`, lastDay: `${september}-12-18` },
      { id: random.uuid(), name: 'Spring', firstDay: `${next}-01-05`, lastDay: `${next}-04-01` },
      { id: random.uuid(), name: 'Summer', firstDay: `${next}-04-15`, lastDay: `${next}-07-16` },
    ],
    closures: [
      { kind: 'staff day', name: 'Staff day', firstDay: `${september}-09-01`, lastDay: `${september}-09-01` },
      week(`${september}-10-24`, 'Autumn break'),
      week(`${next}-02-13`, 'Spring break'),
      { kind: 'holiday', name: 'Island Day', firstDay: `${next}-05-03`, lastDay: `${next}-05-03` },
      week(`${next}-05-29`, 'Summer break'),
    ],
  }
}

/** The year a date belongs to, or lately belonged to: August counts to the year that ended. */
export const septemberOf = (date: CivilDate) =>
  date >= `${date.slice(0, 4)}-09-01` ? Number(date.slice(0, 4)) : Number(date.slice(0, 4)) - 1

/** The date a demo works on: the given one when it is a school day, else the last school day before it. */
export function demoDate(date: CivilDate, year: SchoolYear): CivilDate {
  if (dayKind(year, date).kind === 'school day') return date
  return nearestSchoolDay(year, date, -1) ?? nearestSchoolDay(year, date, 1) ?? date
}
