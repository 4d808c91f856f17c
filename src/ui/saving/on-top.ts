import type { Edit } from './outbox'

/** How the edits of one command say what they change: which records, and what was typed into each. */
export interface Source<V> {
  readonly command: string
  /**
   * The records an edit is about with what was typed; none when it belongs elsewhere. `before` answers what was typed
   * into a record earlier, for edits such as "all that are empty".
   */
  readonly typed: (
    input: unknown,
    before: (record: string) => V | undefined,
  ) => readonly (readonly [record: string, value: V])[]
  /** The records an edit has changed once it is taken: what stands in them, and their versions. */
  readonly written: (
    input: unknown,
    answer: unknown,
  ) => readonly (readonly [record: string, value: V, version: number])[]
}

/** What the server has taken, until its answer shows it. */
export type Landed<V> = ReadonlyMap<string, { readonly value: V; readonly version: number }>

/** Takes note of an edit the server has taken. */
export function land<V>(
  landed: Landed<V>,
  sources: readonly Source<V>[],
  edit: Edit,
  answer: unknown,
): Landed<V> {
  const source = sources.find((s) => s.command === edit.command)
  if (!source) return landed
  const taken = source.written(edit.input, answer)
  if (taken.length === 0) return landed
  return new Map([
    ...landed,
    ...taken.map(([record, value, version]) => [record, { value, version }] as const),
  ])
}

/**
 * What stands on top of the server's answer: what it has taken but not yet shown, and over that what still waits,
 * in the order it was typed. An answer that was asked for before an edit was taken cannot take it back.
 * @param stored the version of each record in the server's answer
 */
export function onTop<V>(
  stored: ReadonlyMap<string, number>,
  landed: Landed<V>,
  sources: readonly Source<V>[],
  waiting: readonly Edit[],
): ReadonlyMap<string, V> {
  const values = new Map<string, V>()
  for (const [record, { value, version }] of landed)
    if (version > (stored.get(record) ?? 0)) values.set(record, value)
  for (const edit of waiting) {
    const source = sources.find((s) => s.command === edit.command)
    for (const [record, value] of source?.typed(edit.input, (r) => values.get(r)) ?? [])
      values.set(record, value)
  }
  return values
}

/** The version a new edit of a record builds on. */
export function versionOf<V>(stored: ReadonlyMap<string, number>, landed: Landed<V>, record: string): number {
  return Math.max(stored.get(record) ?? 0, landed.get(record)?.version ?? 0)
}
