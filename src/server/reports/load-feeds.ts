import { groupBy } from '@/core/group-by'
import { isCalculated } from '@/core/marks/columns/column'
import type { FedLine, FeedSource, ReportLine } from '@/core/reports/feeds'
import { markItself, type ClassMarks, type Member } from '@/server/marks'
import type { Context } from '@/server/platform/context'

export interface RoundFeeds {
  readonly lines: readonly ReportLine[]
  /** The lines with what fills them in a class, in order, and the version of each. */
  readonly of: (classId: string) => readonly (FedLine & { readonly version: number })[]
}

/** The lines of a round, and what fills them in classes. */
export async function loadFeeds({ db }: Context, roundId: string): Promise<RoundFeeds> {
  const [lines, feeds] = await Promise.all([
    db
      .selectFrom('reportLine')
      .select(['id', 'name', 'kind'])
      .where('roundId', '=', roundId)
      .orderBy('position')
      .orderBy('name')
      .execute(),
    db
      .selectFrom('feed')
      .select(['classId', 'lineId', 'columnId', 'version'])
      .where('roundId', '=', roundId)
      .execute(),
  ])
  const byClass = groupBy(feeds, (f) => f.classId)
  return {
    lines,
    of: (classId) =>
      lines.map(({ id: lineId }) => {
        const fed = byClass.get(classId)?.find((f) => f.lineId === lineId)
        return { lineId, columnId: fed?.columnId, version: fed?.version ?? 0 }
      }),
  }
}

/** What can fill a line in a class: the mark of the term, and its columns. */
export function sourcesOf(marks: ClassMarks | undefined): readonly FeedSource[] {
  if (!marks) return []
  return [
    { columnId: null, name: 'Term mark', kinds: ['mark'] },
    ...marks.columns.map((c): FeedSource => {
      const isWord = isCalculated(c) ? c.levels.length > 0 : c.does === 'choice'
      const isNumber = isCalculated(c) || c.does === 'number'
      return {
        columnId: c.id,
        name: c.name,
        kinds: [...(isNumber ? (['mark'] as const) : []), ...(isWord ? (['word'] as const) : [])],
      }
    }),
  ]
}

/** What a line shows of a student: a number with its grade, or a word. */
export interface FedValue {
  readonly lineId: string
  readonly name: string
  readonly isFed: boolean
  readonly mark: string | undefined
  readonly grade: string | undefined
  /** What the gradebook says now, where it differs from what is held. */
  readonly now: string | undefined
}

/** What fills the lines of a round for a student of a class. */
export function valuesOf(
  { lines, of }: RoundFeeds,
  marks: ClassMarks | undefined,
  student: Member,
  withNow = false,
): readonly FedValue[] {
  return of(marks?.classId ?? '').map(({ lineId, columnId }): FedValue => {
    const line = lines.find((l) => l.id === lineId)
    const source = columnId === null ? markItself : columnId
    const shown = (value: { mark: string | undefined; grade: string | undefined } | undefined) =>
      line?.kind === 'word' ? { mark: undefined, grade: value?.grade } : value
    const value = source === undefined ? undefined : shown(marks?.valueOf(student, source))
    const live = withNow && source !== undefined ? shown(marks?.nowOf(student, source)) : value
    const text = (one: typeof value) => one?.mark ?? one?.grade
    return {
      lineId,
      name: line?.name ?? '',
      isFed: source !== undefined,
      mark: value?.mark,
      grade: value?.grade,
      now: text(live) === text(value) ? undefined : text(live),
    }
  })
}
