'use client'
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import type { CommandInput, CommandName } from '@/server/registry'
import type { Rejected } from '@/ui/saving/shelf'
import { Recorded, type About, type Key, type Stored } from '@/ui/saving/recorded'
import { newKey } from './server'
import { useOutboxState, useSaving } from './saving'

/** What one cell of a command's input is. */
type CellOf<N extends CommandName> =
  CommandInput<N> extends infer I ? (I extends { readonly cells: readonly (infer C)[] } ? C : never) : never

/** The commands that save cells, each with a version of its own. */
export type CellCommand = {
  [N in CommandName]: [CellOf<N>] extends [never]
    ? never
    : CellOf<N> extends { readonly key: object; readonly expectedVersion: number }
      ? N
      : never
}[CommandName]
/** What names a cell of a command. */
export type KeyOf<N extends CommandName> =
  CellOf<N> extends { readonly key: infer K extends Readonly<Record<string, unknown>> } ? K : never
/** What stands in a cell of a command. */
export type ValueOf<N extends CommandName> = CellOf<N> extends { readonly value: infer V } ? V : never
/** What all cells of one command have in common. */
export type ScopeOf<N extends CommandName> =
  CommandInput<N> extends infer I ? (I extends unknown ? Omit<I, 'cells'> : never) : never

/** A name for a record that holds every part of its key: `score {assignmentId} {studentId}`. */
type Template<P extends string, All extends string = P> = [P] extends [never]
  ? string
  : { [One in P]: `${string}{${One}}${Template<Exclude<All, One>>}` }[P]

/** What an act on many records puts into which of them, given what they hold. */
type Bulk<V> = {
  readonly [B in CommandName]?: (
    input: CommandInput<B>,
    now: (record: string) => V,
  ) => readonly (readonly [record: string, value: V])[]
}

type Common<V> = Omit<About<V>, 'command' | 'record' | 'input' | 'valueIn' | 'bulk'> & {
  readonly bulk?: Bulk<V>
}

/** Cells that a page edits: key, value and scope are those of the command. `V` is the page's own, narrower shape of a value. */
export type Editing<N extends CellCommand, V extends ValueOf<N> = ValueOf<N>> = Common<V> & {
  readonly command: N
  readonly record: Template<keyof KeyOf<N> & string>
  readonly input: ScopeOf<N>
}

/** One record that a page edits as a whole. */
export type EditingWhole<N extends CommandName, V> = Common<V> & {
  readonly command: N
  readonly record: string
  readonly input: (value: V, expectedVersion: number) => CommandInput<N>
  readonly valueIn: (input: CommandInput<N>) => V
}

/** The records of a page, and what can be done to them; other acts are commands of the registry with their inputs. */
export type RecordedBy<V, K extends Key> = Omit<Recorded<V, K>, 'act'> & {
  readonly act: <B extends CommandName>(command: B, input: CommandInput<B>, label: string) => void
}

/** What a page gets of the records it edits. */
export interface Edited<V, K extends Key> {
  readonly recorded: RecordedBy<V, K> | undefined
  /** What lies on top of the server's answer. */
  readonly values: ReadonlyMap<string, V>
  readonly valueAt: (record: string) => V
  /** Edits that were not saved: in conflict, or refused. */
  readonly rejectedEdits: readonly Rejected[]
  readonly resolve: (rejected: Rejected, keep: 'mine' | 'theirs') => void
}

/**
 * The records of a page as they are edited: saved as they are typed, with what was typed on top of the server's answer,
 * undo, redo and conflicts.
 * @param about what is edited; the same object as long as it is the same
 * @param stored the records in the server's answer
 * @param refresh asks the server again
 */
export function useRecorded<N extends CellCommand, V extends ValueOf<N>>(
  about: Editing<N, V>,
  stored: ReadonlyMap<string, Stored<V>>,
  refresh: () => Promise<unknown>,
): Edited<V, KeyOf<N>> {
  return useEdited<V, KeyOf<N>>(about as unknown as About<V>, stored, refresh)
}

/** The same for one record that is edited as a whole. */
export function useRecordedWhole<N extends CommandName, V>(
  about: EditingWhole<N, V>,
  stored: ReadonlyMap<string, Stored<V>>,
  refresh: () => Promise<unknown>,
): Edited<V, Key> {
  return useEdited<V, Key>(about as unknown as About<V>, stored, refresh)
}

function useEdited<V, K extends Key>(
  about: About<V>,
  stored: ReadonlyMap<string, Stored<V>>,
  refresh: () => Promise<unknown>,
): Edited<V, K> {
  const { outbox } = useSaving()
  const state = useOutboxState()
  const latest = useRef(refresh)
  useEffect(() => {
    latest.current = refresh
  })
  const recorded = useMemo(
    () =>
      outbox &&
      new Recorded<V, K>(outbox, about, {
        newId: newKey,
        refresh: () => latest.current(),
        undoCommand: 'history.undo' satisfies CommandName,
      }),
    [outbox, about],
  )
  useEffect(() => recorded?.open(), [recorded])
  useLayoutEffect(() => recorded?.show(stored), [recorded, stored])

  const values = useMemo(
    () => recorded?.values(stored, state) ?? new Map<string, V>(),
    [recorded, stored, state],
  )
  const rejectedEdits = useMemo(() => recorded?.rejectedOf(state) ?? [], [recorded, state])
  const valueAt = useCallback(
    (record: string): V =>
      values.has(record) ? (values.get(record) as V) : (stored.get(record)?.value ?? about.empty),
    [values, stored, about],
  )
  /** After a conflict: whose value stays. After a refusal: whether to send it again. */
  const resolve = useCallback(
    (rejected: Rejected, keep: 'mine' | 'theirs') => {
      if (keep === 'mine') outbox?.tryAgain(rejected.edit.id)
      else outbox?.discard(rejected.edit.id)
    },
    [outbox],
  )
  // Which command takes which input is known of the registry, not of what saves.
  return { recorded: recorded as RecordedBy<V, K> | undefined, values, valueAt, rejectedEdits, resolve }
}

/** What a conflict is about: what was typed here and what is saved, record by record. */
export function contested<V, K extends Key>(
  recorded: RecordedBy<V, K> | undefined,
  { edit, standing }: Rejected,
  empty: V,
) {
  return (recorded?.typedIn(edit, () => empty) ?? []).map(([record, mine]) => {
    const saved = standing.find((s) => recorded?.recordOf(s.key as K) === record)
    return {
      record,
      mine,
      theirs: (saved?.value as V | null | undefined) ?? empty,
      by: saved?.by || 'Someone else',
    }
  })
}
