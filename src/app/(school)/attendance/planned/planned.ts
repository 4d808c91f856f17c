import type { QueryOutput } from '@/server/registry'

export type Absence = Planned['absences'][number]

export type Planned = QueryOutput<'attendance.planned'>

/** What a guardian has reported, to be entered. */
export type Reported = QueryOutput<'attendance.planned'>['reported'][number]
