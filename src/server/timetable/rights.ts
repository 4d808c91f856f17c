import { staffRoles } from '@/server/platform/actor'
import { onlyRoles } from '@/server/platform/rights'

export const seeTimetable = onlyRoles('see the timetable', ...staffRoles)
export const editTimetable = onlyRoles('edit the timetable', 'administrator', 'office')
export const arrangeLessons = onlyRoles(
  'arrange cover, rooms and cancelled lessons',
  'administrator',
  'head',
  'office',
  'records',
)
