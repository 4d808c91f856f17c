import type { Operand } from './column'

interface Named {
  readonly id: string
  readonly name: string
}

/** The names of all that a formula can read. */
export interface Names {
  readonly assignments: readonly Named[]
  readonly categories: readonly Named[]
  readonly columns: readonly Named[]
  readonly terms: readonly (Named & { readonly periods: readonly Named[] })[]
}

/** What a part of a formula is called in a gradebook. */
export function nameOfOperand(operand: Operand, { assignments, categories, columns, terms }: Names): string {
  const named = (list: readonly Named[], id: string) =>
    list.find((one) => one.id === id)?.name ?? 'something that is gone'
  if (operand.of === 'assignment') return named(assignments, operand.id)
  if (operand.of === 'category') return named(categories, operand.id)
  if (operand.of === 'column') return named(columns, operand.id)
  const term = terms.find((t) => t.id === operand.termId)
  if (!term) return named([], operand.termId)
  return operand.periodId === null
    ? `${term.name} term mark`
    : `${term.name}, ${named(term.periods, operand.periodId)}`
}
