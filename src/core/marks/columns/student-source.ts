import type { CivilDate } from '@/core/calendar/school-year'
import type { Gradebook, ScoreEntries } from '@/core/marks/gradebook'
import type { Rational } from '@/core/marks/rational'
import { partsOf, termMark, type Dates, type TermMark } from '@/core/marks/term-mark'
import type { Operand } from './column'
import type { PartValue, Source } from './evaluate'

/** A marking period of a term. */
export interface MarkingPeriod {
  readonly id: string
  readonly name: string
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
}

/** The gradebook of a term with what a student has in it. */
export interface StudentTerm {
  readonly term: { readonly id: string; readonly firstDay: CivilDate }
  readonly periods: readonly MarkingPeriod[]
  readonly book: Gradebook
  readonly entries: ScoreEntries
  readonly dates: Dates
  /** The term mark, where it has been worked out already. */
  readonly mark?: TermMark | undefined
}

const percent = ({ num, den }: Rational): Rational => ({ num: 100n * num, den })
/** Parts of hundredths as points. */
const points = (earned: number, parts: number): Rational => ({
  num: BigInt(earned),
  den: 100n * BigInt(parts),
})

/**
 * What formulas read of one student in one term: scores, categories, the term mark and the marks of its marking
 * periods, which count the work that is due in them.
 * @param elsewhere what they read beside it: marks of other terms
 */
export function sourceOf(of: StudentTerm, elsewhere: Source): Source {
  const { term, book, entries, dates } = of
  const mark = of.mark ?? termMark(book, entries, dates)
  const parts = partsOf(book.rules)
  const scores = new Map(mark.categories.flatMap((c) => c.scores.map((s) => [s.assignment.id, s] as const)))
  const categories = new Map(mark.categories.map((c) => [c.category.id, c]))
  function ofPeriod(periodId: string): PartValue | undefined {
    const period = of.periods.find((p) => p.id === periodId)
    if (!period) return undefined
    const { firstDay, lastDay } = period
    const assignments = book.assignments.filter((a) => firstDay <= a.dueOn && a.dueOn <= lastDay)
    return { value: termMark({ ...book, assignments }, entries, dates).exact, on: firstDay }
  }
  return (operand: Operand): PartValue | undefined => {
    if (operand.of === 'assignment') {
      const score = scores.get(operand.id)
      if (!score) return undefined
      const { points: typed, earned, max, treatment, assignment } = score
      const on = assignment.dueOn
      // What is dropped from the mark did count, if only as zero.
      const isZero = treatment === 'counted as zero' || treatment === 'dropped'
      if ((typed === undefined && !isZero) || max === 0) return { value: undefined, on }
      const share = { num: 100n * BigInt(earned), den: BigInt(max * parts) }
      return { value: share, points: points(earned, parts), on, isEntered: typed !== undefined }
    }
    if (operand.of === 'category') {
      const category = categories.get(operand.id)
      if (!category) return undefined
      const { share, earned } = category
      return share ? { value: percent(share), points: points(earned, parts) } : { value: undefined }
    }
    if (operand.of === 'marks' && operand.termId === term.id)
      return operand.periodId === null ? { value: mark.exact, on: term.firstDay } : ofPeriod(operand.periodId)
    return elsewhere(operand)
  }
}
