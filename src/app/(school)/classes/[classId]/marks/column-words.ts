import type { Operand } from '@/core/marks/columns/column'
import type { GradebookAnswer } from './use-gradebook'

/** What a part of a formula is called in a gradebook. */
export function nameOfOperand(operand: Operand, { book, columns, terms }: GradebookAnswer): string {
  const gone = 'something that is gone'
  if (operand.of === 'assignment') return book?.assignments.find((a) => a.id === operand.id)?.name ?? gone
  if (operand.of === 'category') return book?.categories.find((c) => c.id === operand.id)?.name ?? gone
  if (operand.of === 'column') return columns.find((c) => c.id === operand.id)?.name ?? gone
  const term = terms.find((t) => t.id === operand.termId)
  const period = term?.periods.find((p) => p.id === operand.periodId)
  if (!term || (operand.periodId !== null && !period)) return gone
  return period ? `${term.name}, ${period.name}` : `${term.name} term mark`
}

/** What a column can be worked out from, in groups; a column of the whole year reads only what the whole year has. */
export function offeredOperands(
  { book, columns, terms }: GradebookAnswer,
  { isYear, own }: { isYear: boolean; own: string | undefined },
): readonly { readonly title: string; readonly operands: readonly Operand[] }[] {
  const marks = terms.flatMap((t): Operand[] => [
    { of: 'marks', termId: t.id, periodId: null },
    ...t.periods.map((p): Operand => ({ of: 'marks', termId: t.id, periodId: p.id })),
  ])
  const others = columns.filter((c) => c.id !== own && (!isYear || c.termId === null))
  const ofTerm = isYear ? undefined : book
  return [
    { title: 'Marks of terms and marking periods', operands: marks },
    {
      title: 'Categories',
      operands: (ofTerm?.categories ?? []).map((c): Operand => ({ of: 'category', id: c.id })),
    },
    {
      title: 'Assignments',
      operands: (ofTerm?.assignments ?? []).map((a): Operand => ({ of: 'assignment', id: a.id })),
    },
    { title: 'Other calculated columns', operands: others.map((c): Operand => ({ of: 'column', id: c.id })) },
  ].filter((group) => group.operands.length > 0)
}
