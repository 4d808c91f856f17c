import { assessment } from './assessment'
import { attendance } from './attendance'
import { marks } from './marks'
import { people } from './people'
import { reports } from './reports'
import { year } from './year'

/** The domains of the school's work, one line each. */
export const domains = [year, people, attendance, assessment, marks, reports] as const
