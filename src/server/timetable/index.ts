import { shortDate } from '@/core/calendar/date-words'
import { defineDomain } from '@/server/platform/define'
import { textOf } from '@/server/platform/words'
import { changeLesson } from './changes'
import { coverEndsWithItsPeople } from './invariants'
import { seeTimetable } from './rights'
import { removeTimetable, replaceLessons, saveTimetable, setLesson, timetable as shown } from './timetables'

export {
  halfDayStarts,
  lessonsHeld,
  lessonsPlaced,
  lessonsOnDay,
  nearestLessons,
  type DayLesson,
  type HeldLessons,
} from './on-day'
export { endCover } from './end-cover'
export { arrangeLessons } from './rights'

/** Which lessons there are, when, and what is different on a day. */
export const timetable = defineDomain({
  name: 'timetable',
  tables: ['timetable', 'timetablePeriod', 'lesson', 'lessonChange'],
  reads: ['year', 'staff'],
  queries: { shown },
  commands: { saveTimetable, removeTimetable, setLesson, replaceLessons, changeLesson },
  places: [
    {
      name: 'Timetable',
      href: '/school/timetable',
      right: seeTimetable,
      of: 'School',
      group: 'Structure',
      position: 9,
    },
  ],
  invariants: [coverEndsWithItsPeople],
  history: {
    timetable: {
      kind: 'Timetable',
      which: (v) => textOf(v.name),
      columns: {
        name: 'name',
        first_day: 'first day',
        last_day: 'last day',
        cycle: 'repeats by',
        cycle_days: 'days',
      },
      name: 'name',
    },
    timetable_period: {
      kind: 'Period',
      which: (v) => textOf(v.number),
      columns: { starts: 'starts', ends: 'ends' },
    },
    lesson: {
      kind: 'Lesson',
      which: (v) => `day ${textOf(v.cycle_day)}, period ${textOf(v.period)}`,
      columns: { class_id: 'class', room_id: 'room' },
    },
    lesson_change: {
      kind: 'Lesson of a day',
      which: (v) => `${shortDate(textOf(v.on_date))}, period ${textOf(v.period)}`,
      columns: { cancelled: 'cancelled', staff_id: 'cover', room_id: 'room', note: 'note' },
    },
  },
})
