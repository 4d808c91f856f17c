import type { Operand } from '@/core/marks/columns/column'
import type { Names } from '@/core/marks/columns/words'
import type { GradebookAnswer } from './book'

/** The names of all that formulas of a gradebook read. */
export const namesIn = ({ book, columns, terms }: GradebookAnswer): Names => ({
  assignments: book?.assignments ?? [],
  categories: book?.categories ?? [],
  columns,
  terms,
})

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
    { title: 'Other columns', operands: others.map((c): Operand => ({ of: 'column', id: c.id })) },
  ].filter((group) => group.operands.length > 0)
}
