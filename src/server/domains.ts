import { assessment } from './assessment'
import { attendance } from './attendance'
import { marks } from './marks'
import { people } from './people'
import { reports } from './reports'
import { staff } from './staff'
import { timetable } from './timetable'
import { year } from './year'

/** The domains of the school's work, one line each. */
export const domains = [year, people, staff, timetable, attendance, assessment, marks, reports] as const
