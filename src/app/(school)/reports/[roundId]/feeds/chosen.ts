import { sameName } from '@/core/same-name'
import { fits, unsettled } from '@/core/reports/feeds'
import type { QueryOutput } from '@/server/registry'

export type Feeds = QueryOutput<'reports.feeds'>
export type FedClass = Feeds['classes'][number]

/** What was chosen here for a line of a class, with the version it was chosen over. */
export interface Choice {
  readonly columnId: string | null
  readonly expectedVersion: number
}
export type Choices = ReadonlyMap<string, Choice>

export const keyOf = (classId: string, lineId: string) => `${classId} ${lineId}`

/** What fills a line of a class, with what was chosen here on top; undefined where nothing does. */
export function filledBy(
  choices: Choices,
  { id, lines }: FedClass,
  lineId: string,
): string | null | undefined {
  const chosen = choices.get(keyOf(id, lineId))
  return chosen ? chosen.columnId : lines.find((l) => l.lineId === lineId)?.columnId
}

/** The lines of a class as they would be, and what is still to be settled about them. */
export function standingOf(choices: Choices, one: FedClass) {
  const lines = one.lines.map(({ lineId }) => ({ lineId, columnId: filledBy(choices, one, lineId) }))
  return unsettled(lines)
}

/** Adds choices, and leaves out those that are what is saved already. */
export function choose(
  choices: Choices,
  more: readonly { readonly of: FedClass; readonly lineId: string; readonly columnId: string | null }[],
): Choices {
  const next = new Map(choices)
  for (const { of, lineId, columnId } of more) {
    const saved = of.lines.find((l) => l.lineId === lineId)
    if (saved?.columnId === columnId) next.delete(keyOf(of.id, lineId))
    else next.set(keyOf(of.id, lineId), { columnId, expectedVersion: saved?.version ?? 0 })
  }
  return next
}

/** What is proposed for the lines that nothing fills yet. */
export const proposals = (choices: Choices, { classes }: Feeds) =>
  classes
    .filter((c) => c.mayFeed)
    .flatMap((of) =>
      of.lines.flatMap(({ lineId, proposed }) =>
        proposed !== undefined && filledBy(choices, of, lineId) === undefined
          ? [{ of, lineId, columnId: proposed }]
          : [],
      ),
    )

/** The same column, by its name, for the other classes of the course that would change by it. */
export function alike(choices: Choices, { lines, classes }: Feeds, of: FedClass, lineId: string) {
  const line = lines.find((l) => l.id === lineId)
  const columnId = filledBy(choices, of, lineId)
  const source = of.sources.find((s) => s.columnId === columnId)
  if (!line || !source) return []
  return classes
    .filter((c) => c.courseId === of.courseId && c.id !== of.id && c.mayFeed)
    .flatMap((c) => {
      const same = c.sources.find(
        (s) =>
          fits(line, s) &&
          (s.columnId === null) === (source.columnId === null) &&
          sameName(s.name) === sameName(source.name),
      )
      return same && filledBy(choices, c, lineId) !== same.columnId
        ? [{ of: c, lineId, columnId: same.columnId }]
        : []
    })
}
