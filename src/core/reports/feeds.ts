import { sameName } from '@/core/same-name'

/** What a line of a report holds: a number with its grade, or a word such as an attainment level. */
export const lineKinds = ['mark', 'word'] as const
export type LineKind = (typeof lineKinds)[number]

export interface ReportLine {
  readonly id: string
  readonly name: string
  readonly kind: LineKind
}

/** A column of a gradebook as a line can be filled from it. */
export interface FeedSource {
  /** Null for the mark of the term. */
  readonly columnId: string | null
  readonly name: string
  /** What it can fill: a level is a number with a word. */
  readonly kinds: readonly LineKind[]
}

/** A line with what fills it; without one nothing does. */
export interface FedLine {
  readonly lineId: string
  readonly columnId: string | null | undefined
}

/** Whether a source can fill a line. */
export const fits = (line: Pick<ReportLine, 'kind'>, source: Pick<FeedSource, 'kinds'>): boolean =>
  source.kinds.includes(line.kind)

/**
 * Which source each line that nothing fills yet could have: the one of the same name and kind; else the term's mark for
 * the first line of marks; else the only one of its kind that nothing else uses. Each source once.
 */
export function proposeFeeds(
  lines: readonly ReportLine[],
  sources: readonly FeedSource[],
  fed: readonly FedLine[],
): ReadonlyMap<string, FeedSource> {
  const used = new Set(fed.flatMap((f) => (f.columnId === undefined ? [] : [f.columnId])))
  const open = lines.filter((l) => fed.find((f) => f.lineId === l.id)?.columnId === undefined)
  const proposed = new Map<string, FeedSource>()
  const take = (line: ReportLine, source: FeedSource | undefined) => {
    if (!source || proposed.has(line.id)) return
    proposed.set(line.id, source)
    used.add(source.columnId)
  }
  const free = (line: ReportLine) => sources.filter((s) => fits(line, s) && !used.has(s.columnId))
  for (const line of open)
    take(
      line,
      free(line).find((s) => sameName(s.name) === sameName(line.name)),
    )
  for (const line of open)
    if (line.kind === 'mark')
      take(
        line,
        free(line).find((s) => s.columnId === null),
      )
  for (const line of open) {
    const left = free(line)
    if (left.length === 1) take(line, left[0])
  }
  return proposed
}

/** What is still to be settled about the lines of one class: lines that nothing fills, and sources that fill several. */
export function unsettled(fed: readonly FedLine[]): {
  readonly unfed: readonly string[]
  readonly twice: readonly string[]
} {
  const times = new Map<string | null, number>()
  for (const { columnId } of fed)
    if (columnId !== undefined) times.set(columnId, (times.get(columnId) ?? 0) + 1)
  return {
    unfed: fed.filter((f) => f.columnId === undefined).map((f) => f.lineId),
    twice: fed
      .filter((f) => f.columnId !== undefined && (times.get(f.columnId) ?? 0) > 1)
      .map((f) => f.lineId),
  }
}
