/** A student's mark in a half-day register, as a row of its table. */
export interface HalfDayMark {
  readonly student_id: string
  readonly session_date: string
  readonly session: 'morning' | 'afternoon'
  readonly code_id: string | undefined
  readonly minutes_late: number | null
  readonly homeroom_id: string
  readonly [column: string]: unknown
}
