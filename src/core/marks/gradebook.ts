import type { CivilDate } from '@/core/calendar/school-year'

export interface GradingBand {
  readonly grade: string
  /** Lowest percentage that earns the grade. */
  readonly fromPercent: string
}

export interface GradebookRules {
  /** Decimals of the term mark, rounded once at the end, half up. */
  readonly decimals: number
  readonly emptyCounts: 'nothing' | 'zero after due'
  readonly missingCounts: 'nothing' | 'zero'
  /** Highest first. */
  readonly bands: readonly GradingBand[]
}

export interface Category {
  readonly id: string
  readonly name: string
  readonly weight: string
  /** How many of the lowest shares of points are left out, if more than that many are there. */
  readonly dropLowest: number
}

export interface Assignment {
  readonly id: string
  readonly name: string
  readonly categoryId: string
  readonly maxPoints: string
  readonly dueOn: CivilDate
  readonly counts: boolean
}

/** What stands in a cell: points, a standing of its own, or nothing. */
export type ScoreEntry =
  | { readonly kind: 'points'; readonly points: string }
  | { readonly kind: 'missing' }
  | { readonly kind: 'excused' }

/** What stands in a cell, typed or from an assessment; one of its answers may still wait for a marker. */
export type CellEntry = ScoreEntry | { readonly kind: 'unmarked' }

/** A student's entries by assignment id; an absent key is an empty cell. */
export type ScoreEntries = ReadonlyMap<string, CellEntry>

export interface Gradebook {
  readonly rules: GradebookRules
  readonly categories: readonly Category[]
  readonly assignments: readonly Assignment[]
}
