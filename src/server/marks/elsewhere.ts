import { sourceOf, type MarkingPeriod } from '@/core/marks/columns/student-source'
import { keyOf, type CalculatedColumn } from '@/core/marks/columns/column'
import type { CivilDate } from '@/core/calendar/school-year'
import type { Context } from '@/server/platform/context'
import { loadGradebooks } from './load-gradebooks'

/** A mark of another term, exactly: `num` of `den`, as texts. */
export interface MarkElsewhere {
  readonly studentId: string
  /** `keyOf` the part of the formula that reads it. */
  readonly key: string
  readonly num: string
  readonly den: string
  readonly on: CivilDate
}

/** The terms of a class with their marking periods, in order. */
export const termsOf = async ({ db }: Context, classId: string) => {
  const [terms, periods] = await Promise.all([
    db
      .selectFrom('classTerm as c')
      .innerJoin('term as t', 't.id', 'c.termId')
      .select(['t.id', 't.name', 't.firstDay', 't.lastDay'])
      .where('c.classId', '=', classId)
      .orderBy('t.firstDay')
      .execute(),
    db
      .selectFrom('termPeriod as p')
      .innerJoin('classTerm as c', 'c.termId', 'p.termId')
      .select(['p.id', 'p.name', 'p.firstDay', 'p.lastDay', 'p.termId'])
      .where('c.classId', '=', classId)
      .where('p.kind', '=', 'marking')
      .orderBy('p.firstDay')
      .execute(),
  ])
  return terms.map((term) => ({
    ...term,
    periods: periods.filter((p) => p.termId === term.id) as readonly MarkingPeriod[],
  }))
}

/** What columns read of a class's other terms, for the students that are shown: each term's gradebook is loaded once. */
export async function marksElsewhere(
  context: Context,
  {
    classId,
    termId,
    columns,
    students,
    terms,
  }: {
    classId: string
    /** The term that is shown: its marks are worked out where it is. */
    termId: string
    columns: readonly CalculatedColumn[]
    students: readonly { readonly id: string; readonly since: CivilDate }[]
    terms: Awaited<ReturnType<typeof termsOf>>
  },
): Promise<readonly MarkElsewhere[]> {
  const operands = columns.flatMap((c) =>
    c.parts.flatMap(({ operand }) => (operand.of === 'marks' && operand.termId !== termId ? [operand] : [])),
  )
  const unique = [...new Map(operands.map((o) => [keyOf(o), o])).values()]
  const ofTerms = await Promise.all(
    terms
      .filter((t) => unique.some((o) => o.termId === t.id))
      .map(async (term) => ({
        term,
        book: (await loadGradebooks(context.db, [classId], term.id)).get(classId),
      })),
  )
  return ofTerms.flatMap(({ term, book }) => {
    if (!book) return []
    const own = unique.filter((o) => o.termId === term.id)
    return students.flatMap(({ id: studentId, since }) => {
      const source = sourceOf(
        {
          term,
          periods: term.periods,
          book,
          entries: book.entriesOf(studentId),
          dates: { on: context.today, since },
        },
        () => undefined,
      )
      return own.flatMap((operand): MarkElsewhere[] => {
        const { value, on = term.firstDay } = source(operand) ?? {}
        return value
          ? [{ studentId, key: keyOf(operand), num: String(value.num), den: String(value.den), on }]
          : []
      })
    })
  })
}
