import type { QueryOutput } from '@/server/registry'

export type Shown = QueryOutput<'timetable.shown'>

export type Timetable = Shown['timetables'][number]

/** Whose timetable is looked at. */
export interface TableOf {
  readonly kind: 'teacher' | 'class' | 'room'
  readonly id: string
  readonly name: string
}
