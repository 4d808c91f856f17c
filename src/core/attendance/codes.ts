export const meanings = [
  'present',
  'late',
  'elsewhere',
  'absent with reason',
  'absent without reason',
  'not expected',
] as const
export type Meaning = (typeof meanings)[number]

/** Meanings that count as being at school on time; being late counts by itself. */
export const hereMeanings: readonly Meaning[] = ['present', 'elsewhere']
export const awayMeanings: readonly Meaning[] = [
  'absent with reason',
  'absent without reason',
  'not expected',
]

export interface AttendanceCode {
  readonly id: string
  readonly code: string
  readonly label: string
  readonly meaning: Meaning
}

/** What a code asks for beside it. */
export interface CodeNeeds {
  readonly needsMinutes: boolean
  readonly needsNote: boolean
}

/** What a mark still lacks of what its code asks for. */
export function lacking(
  { needsMinutes, needsNote }: CodeNeeds,
  { minutesLate, note }: { readonly minutesLate: number | null; readonly note: string | null },
): 'minutes' | 'note' | undefined {
  if (needsMinutes && minutesLate === null) return 'minutes'
  return needsNote && note === null ? 'note' : undefined
}

/** What a half-typed code can still become. */
export type TypedCode =
  /** Nothing longer begins so: take it at once. */
  | { readonly kind: 'complete'; readonly code: AttendanceCode }
  /** It may be meant as it stands, or grow into another: wait. `exact` is taken by Enter or by moving on. */
  | {
      readonly kind: 'waiting'
      readonly exact: AttendanceCode | undefined
      readonly possible: readonly AttendanceCode[]
    }
  | { readonly kind: 'unknown' }

/**
 * Reads a code as it is being typed, in either case.
 * Codes may begin with other codes (A, A1, A2), so `A` waits while `P` does not.
 */
export function readTypedCode(typed: string, codes: readonly AttendanceCode[]): TypedCode {
  const text = typed.toUpperCase()
  if (text === '') return { kind: 'waiting', exact: undefined, possible: codes }
  const possible = codes.filter((c) => c.code.startsWith(text))
  const exact = possible.find((c) => c.code === text)
  if (possible.length === 0) return { kind: 'unknown' }
  if (exact && possible.length === 1) return { kind: 'complete', code: exact }
  return { kind: 'waiting', exact, possible }
}
