/** How far the marks of a class are for one part of the year. */
export type MarksState = 'open' | 'confirmed' | 'closed'

export type MarksAct = 'confirm' | 'take back' | 'close' | 'reopen'

/** From which states an act is possible, and where it leads. Anything else is refused. */
export const marksActs: Readonly<
  Record<MarksAct, { readonly from: readonly MarksState[]; readonly to: MarksState }>
> = {
  // Once more holds what the gradebook says now.
  confirm: { from: ['open', 'confirmed'], to: 'confirmed' },
  'take back': { from: ['confirmed'], to: 'open' },
  close: { from: ['confirmed'], to: 'closed' },
  reopen: { from: ['closed'], to: 'confirmed' },
}

/** Whether values are held, and the gradebook is only looked at to show what has changed since. */
export const areHeld = (state: MarksState): boolean => state !== 'open'

/** The part of the year that marks are made final for: a marking period, a whole term, or the whole year. */
export interface MarksPeriod {
  /** Null for the whole year. */
  readonly termId: string | null
  /** Null for the whole term. */
  readonly periodId: string | null
}

/** The same text for the same part of the year. */
export const periodKey = ({ termId, periodId }: MarksPeriod): string => `${termId ?? ''} ${periodId ?? ''}`
