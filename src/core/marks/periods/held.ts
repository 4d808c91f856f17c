import { inWords, type CalculatedColumn } from '@/core/marks/columns/column'
import type { Evaluated } from '@/core/marks/columns/evaluate'
import { nameOfOperand, type Names } from '@/core/marks/columns/words'
import type { Explanation } from '@/core/marks/explanation'

/** One part of a calculated column as it was when the value was held. */
export interface HeldStep {
  readonly name: string
  readonly shown: string | null
  readonly weight: string
  readonly taken: boolean
}

/** How a held value was worked out, as it was shown then: plain data, read without the gradebook it came from. */
export type HeldExplanation =
  | { readonly kind: 'mark'; readonly version: 1; readonly mark: Explanation }
  | {
      readonly kind: 'column'
      readonly version: 1
      readonly sentence: string
      readonly steps: readonly HeldStep[]
    }
  | { readonly kind: 'entered'; readonly version: 1 }
  /** Held before explanations were kept. */
  | { readonly kind: 'before' }

/** A calculated value with how it came about, in names. */
export function heldColumn(column: CalculatedColumn, value: Evaluated, names: Names): HeldExplanation {
  const nameOf = (operand: Parameters<typeof nameOfOperand>[0]) => nameOfOperand(operand, names)
  return {
    kind: 'column',
    version: 1,
    sentence: inWords(column, nameOf),
    steps: value.steps.map(({ operand, shown = null, weight, taken }) => ({
      name: nameOf(operand),
      shown,
      weight,
      taken,
    })),
  }
}
