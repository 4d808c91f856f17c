import type { QueryOutput } from '@/server/registry'

export type Calendar = QueryOutput<'year.calendar'>

/** The first and last day of something. */
export interface Days {
  readonly firstDay: string
  readonly lastDay: string
  /** What it is called, where that was typed along with the days. */
  readonly name?: string
}

/** What was typed into a row. */
export interface TypedDays extends Days {
  readonly name: string
}

/** What the tables of the year share: where a row goes once it was typed. */
export interface Typing<R extends Spanned> {
  /** Opens the dialog that lists what lies on the days; false while another is open, so that the row waits. */
  readonly review: (row: R, typed: TypedDays) => boolean
  readonly saved: (words: string, run: string | undefined) => void
  readonly refresh: () => Promise<void>
}

/** A row of the year's tables: a name and the days it spans. */
export interface Spanned extends Days {
  readonly id: string
  readonly name: string
  readonly version: number
}
