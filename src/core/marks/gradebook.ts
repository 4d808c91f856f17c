import type { CivilDate } from '@/core/calendar/school-year'

export interface GradingBand {
  readonly grade: string
  /** Lowest percentage that earns the grade. */
  readonly fromPercent: string
}

/** How work without points counts. */
export const countings = ['nothing', 'zero'] as const
export type Counting = (typeof countings)[number]

/** Of what late work loses a percentage. */
export const lateBases = ['points scored', 'points possible'] as const

/** What late work loses; never more than its points. */
export interface LateRule {
  /** A decimal above 0, up to 100. */
  readonly percent: string
  readonly of: (typeof lateBases)[number]
}

/** How categories make a term mark: each with its weight, or all points together. */
export const methods = ['weights', 'points'] as const

export interface GradebookRules {
  readonly method: (typeof methods)[number]
  /** Decimals of the term mark, rounded once at the end, half up. */
  readonly decimals: number
  readonly emptyCounts: 'nothing' | 'zero after due'
  readonly missingCounts: Counting
  readonly incompleteCounts: Counting
  /** Null where late work loses nothing. */
  readonly late: LateRule | null
  /** The highest term mark there is, in percent; null where extra credit may lift it as far as it goes. */
  readonly most: string | null
  /** Highest first. */
  readonly bands: readonly GradingBand[]
}

/** How the work of a category counts: by its points, or each piece as much as another. */
export const withins = ['points', 'pieces'] as const

export interface Category {
  readonly id: string
  readonly name: string
  readonly weight: string
  readonly within: (typeof withins)[number]
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
  /** Its points come on top: they add to what was earned, and not to what could be. */
  readonly extra: boolean
}

/** What stands in a cell: points, a standing of its own, or nothing. */
export type ScoreEntry =
  | {
      readonly kind: 'points'
      readonly points: string
      /** Handed in late. */
      readonly late?: true
    }
  | { readonly kind: 'missing' }
  | { readonly kind: 'excused' }
  | { readonly kind: 'incomplete' }

/** The standings that can be entered in place of points. */
export const standings = ['missing', 'excused', 'incomplete'] as const
export type Standing = (typeof standings)[number]

/** What stands in a cell, typed or from an assessment; one of its answers may still wait for a marker. */
export type CellEntry = ScoreEntry | { readonly kind: 'unmarked' }

/** A student's entries by assignment id; an absent key is an empty cell. */
export type ScoreEntries = ReadonlyMap<string, CellEntry>

export interface Gradebook {
  readonly rules: GradebookRules
  readonly categories: readonly Category[]
  readonly assignments: readonly Assignment[]
}
