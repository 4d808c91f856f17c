import type { AttendanceFigures } from '@/core/attendance/figures'
import type { Effort } from './entries'

/** One class's lines on a card. */
export interface CardLine {
  readonly subject: string
  readonly className: string
  readonly teacher: string
  readonly mark: string | undefined
  readonly grade: string | undefined
  readonly effort: Effort | null
  readonly comment: string
  /** Only what the head has checked is final. */
  readonly checked: boolean
  /** Further lines of the report, in order; an empty value where there is nothing. */
  readonly more?: readonly { readonly name: string; readonly value: string }[]
}

/** Everything that stands on one report card; plain data, kept as it was released. */
export interface CardContents {
  readonly school: string
  readonly round: string
  readonly year: string
  readonly term: string
  readonly student: {
    readonly id: string
    readonly name: string
    readonly number: number | null
    readonly yearGroup: string
    readonly homeroom: string
  }
  readonly homeroomTeacher: string
  readonly lines: readonly CardLine[]
  /** Subjects named as still to follow. */
  readonly toFollow: readonly string[]
  readonly attendance: AttendanceFigures
  readonly scale: readonly { readonly grade: string; readonly fromPercent: string }[]
  /** False prints "not final" across every page. */
  readonly final: boolean
  /** Second and later issues say what they replace. */
  readonly issue: number
  readonly printedOn: string
}

/** Keeps on a card what is checked, and names the rest as to follow. */
export function releasedPart(card: CardContents): CardContents {
  return {
    ...card,
    lines: card.lines.filter((line) => line.checked),
    toFollow: card.lines.filter((line) => !line.checked).map((line) => line.subject),
    final: true,
  }
}
