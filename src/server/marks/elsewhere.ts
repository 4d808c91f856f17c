import { groupBy } from '@/core/group-by'
import { isCalculated, keyOf, type Column, type Operand } from '@/core/marks/columns/column'
import type { Source } from '@/core/marks/columns/evaluate'
import { sourceOf, type MarkingPeriod } from '@/core/marks/columns/student-source'
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

export interface TermOfClass {
  readonly id: string
  readonly name: string
  readonly firstDay: CivilDate
  readonly lastDay: CivilDate
  readonly periods: readonly MarkingPeriod[]
}

/** The terms of classes with their marking periods, in order. */
export async function termsOfAll(
  { db }: Pick<Context, 'db'>,
  classIds: readonly string[],
): Promise<ReadonlyMap<string, readonly TermOfClass[]>> {
  if (classIds.length === 0) return new Map()
  const [terms, periods] = await Promise.all([
    db
      .selectFrom('classTerm as c')
      .innerJoin('term as t', 't.id', 'c.termId')
      .select(['c.classId', 't.id', 't.name', 't.firstDay', 't.lastDay'])
      .where('c.classId', 'in', [...classIds])
      .orderBy('t.firstDay')
      .execute(),
    db
      .selectFrom('termPeriod as p')
      .select(['p.id', 'p.name', 'p.firstDay', 'p.lastDay', 'p.termId'])
      .where('p.kind', '=', 'marking')
      .where('p.termId', 'in', (eb) =>
        eb
          .selectFrom('classTerm')
          .select('termId')
          .where('classId', 'in', [...classIds]),
      )
      .orderBy('p.firstDay')
      .execute(),
  ])
  const byTerm = groupBy(periods, (p) => p.termId)
  return new Map(
    [...groupBy(terms, (t) => t.classId)].map(([classId, own]) => [
      classId,
      own.map(({ classId: _, ...term }) => ({ ...term, periods: byTerm.get(term.id) ?? [] })),
    ]),
  )
}

/** A class whose columns read marks of other terms. */
interface Reading {
  readonly classId: string
  readonly columns: readonly Column[]
  readonly terms: readonly TermOfClass[]
}

/** A student of a class, with the day of joining it. */
export interface Member {
  readonly id: string
  readonly since: CivilDate
}

/** What a class's columns read of its other terms. */
interface Elsewhere {
  readonly operands: readonly Operand[]
  readonly of: (student: Member) => Source
}

const nothingElsewhere: Elsewhere = { operands: [], of: () => () => undefined }

/**
 * What columns read of other terms of their classes: the gradebooks of a term are loaded at once, however many classes
 * there are, and a student's marks are worked out when they are asked for.
 * @param termId the term that is shown, whose marks are worked out where it is; null where all terms are read
 * @returns for every class, also for those that read nothing
 */
export async function loadElsewhere(
  context: Pick<Context, 'db' | 'today'>,
  termId: string | null,
  classes: readonly Reading[],
): Promise<(classId: string) => Elsewhere> {
  const readings = classes.map((one) => {
    const operands = one.columns
      .filter(isCalculated)
      .flatMap((c) =>
        c.parts.flatMap(({ operand }) =>
          operand.of === 'marks' && operand.termId !== termId ? [operand] : [],
        ),
      )
    return { ...one, operands: [...new Map(operands.map((o) => [keyOf(o), o])).values()] }
  })
  const read = [...new Set(readings.flatMap((r) => r.operands.map((o) => o.termId)))]
  const books = new Map(
    await Promise.all(
      read.map(async (id) => {
        const those = readings.filter((r) => r.operands.some((o) => o.termId === id)).map((r) => r.classId)
        return [id, await loadGradebooks(context.db, those, id)] as const
      }),
    ),
  )
  const found = new Map(
    readings.map(({ classId, operands, terms }): [string, Elsewhere] => [
      classId,
      {
        operands,
        of: ({ id, since }) => {
          const sources = new Map(
            terms.flatMap((term): [string, Source][] => {
              const book = books.get(term.id)?.get(classId)
              if (!book) return []
              const dates = { on: context.today, since }
              const entries = book.entriesOf(id)
              return [
                [term.id, sourceOf({ term, periods: term.periods, book, entries, dates }, () => undefined)],
              ]
            }),
          )
          return (operand) => (operand.of === 'marks' ? sources.get(operand.termId)?.(operand) : undefined)
        },
      },
    ]),
  )
  return (classId) => found.get(classId) ?? nothingElsewhere
}

/** The same for students of one class as plain data, for where marks are worked out as they are typed. */
export function marksElsewhere(
  { operands, of }: Elsewhere,
  students: readonly Member[],
): readonly MarkElsewhere[] {
  if (operands.length === 0) return []
  return students.flatMap((student) => {
    const source = of(student)
    return operands.flatMap((operand): MarkElsewhere[] => {
      const { value, on = '' } = source(operand) ?? {}
      return value
        ? [{ studentId: student.id, key: keyOf(operand), num: String(value.num), den: String(value.den), on }]
        : []
    })
  })
}
