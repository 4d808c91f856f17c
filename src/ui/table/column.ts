import type { ReactNode } from 'react'

/** One column of a table: what it holds, and how that is shown. */
export interface Column<T> {
  readonly id: string
  readonly title: string
  /** A small drawing before the title. */
  readonly mark?: ReactNode
  /** The value it is sorted by; a column without one is not sorted. */
  readonly value?: (row: T) => string | number | null | undefined
  /** What a file of the list gets, where that is not the value: a number with its leading zeros. */
  readonly written?: (row: T) => string | number | null | undefined
  readonly cell: (row: T, index: number) => ReactNode
  /** The few kinds into which rows fall, which the list can be narrowed to. */
  readonly choices?: (row: T) => readonly string[]
  /** Names the row to screen readers. */
  readonly heading?: boolean
  readonly align?: 'right'
  /** Whether the title is only for screen readers. */
  readonly quiet?: boolean
  readonly className?: string
}

/** How a table is narrowed and sorted; kept by the page, in its address where others should find it. */
export interface TableView {
  readonly text: string
  /** A column's id, `-` before it for descending; empty for the order of the rows. */
  readonly sort: string
  /** The ids of columns that are not shown. */
  readonly hidden: readonly string[]
  /** The kind chosen in a column, by its id. */
  readonly only: Readonly<Record<string, string>>
  readonly onText: (text: string) => void
  readonly onSort: (sort: string) => void
  readonly onHide: (ids: readonly string[]) => void
  /** Narrows to a kind; an empty one takes it back. */
  readonly onOnly: (id: string, value: string) => void
}

/** Narrows a list by a text. */
export interface Narrowing<T> {
  readonly label: string
  /** A lower number is a better match, undefined is none. */
  readonly rank: (row: T, text: string) => number | undefined
  readonly none: string
  /** For a page whose first act is to look up a person. */
  readonly autoFocus?: boolean
}
