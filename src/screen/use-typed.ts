'use client'
import { useCallback, useMemo, useRef, useState } from 'react'
import type { Standing } from '@/server/platform/failure'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import { land, onTop, versionOf, type Landed, type Source } from '@/ui/saving/on-top'
import type { Edit, Refused } from '@/ui/saving/outbox'
import { useEnded, useOutboxState, useSaving } from './saving'

/** A source whose edits are those of one command of the registry. */
export function source<N extends CommandName, V>(
  command: N,
  typed: (
    input: CommandInput<N>,
    before: (record: string) => V | undefined,
  ) => readonly (readonly [record: string, value: V])[],
  written: (
    input: CommandInput<N>,
    answer: CommandOutput<N>,
  ) => readonly (readonly [record: string, value: V, version: number])[],
): Source<V> {
  return {
    command,
    typed: (input, before) => typed(input as CommandInput<N>, before),
    written: (input, answer) => written(input as CommandInput<N>, answer as CommandOutput<N>),
  }
}

type CellCommand = {
  [N in CommandName]: CommandInput<N> extends { cells: readonly { key: infer _K; value: infer _V }[] }
    ? N
    : never
}[CommandName]
type KeyOf<N extends CellCommand> = CommandInput<N>['cells'][number]['key']
type ValueOf<N extends CellCommand> = CommandInput<N>['cells'][number]['value']

/** A source for a command that saves cells: each cell is a record of its own. */
export function cellSource<N extends CellCommand>(
  command: N,
  {
    isHere,
    recordOf,
  }: {
    /** Whether an edit is about what the page shows. */
    isHere: (input: CommandInput<N>) => boolean
    recordOf: (key: KeyOf<N>) => string
  },
): Source<ValueOf<N>> {
  const typed = (input: CommandInput<N>): readonly (readonly [string, ValueOf<N>])[] =>
    isHere(input) ? input.cells.map((cell) => [recordOf(cell.key), cell.value] as const) : []
  return source<N, ValueOf<N>>(command, typed, (input, answer) => {
    const versions = new Map(
      (answer as readonly { key: KeyOf<N>; version: number }[]).map((w) => [recordOf(w.key), w.version]),
    )
    return typed(input).flatMap(([record, value]) => {
      const version = versions.get(record)
      return version === undefined ? [] : [[record, value, version] as const]
    })
  })
}

/** An edit the server did not take because someone else changed the same: what was typed here, and what is saved. */
export interface Conflict<V> {
  readonly editId: string
  readonly mine: readonly (readonly [record: string, value: V])[]
  readonly message: string
  readonly standing: readonly Standing[]
}

/**
 * Values typed here, on top of the server's answer until that shows them, and where somebody else was faster.
 * @param stored the version of each record in the server's answer
 * @param sources the commands that change these records
 * @param whenRefused told why an edit was not taken and will not be
 */
export function useTyped<V>(
  stored: ReadonlyMap<string, number>,
  sources: readonly Source<V>[],
  {
    refresh,
    whenRefused,
  }: {
    refresh: () => Promise<void>
    whenRefused: (message: string, mine: readonly (readonly [record: string, value: V])[]) => void
  },
) {
  const { waiting, refused } = useOutboxState()
  const { dismiss } = useSaving()
  const [landed, setLanded] = useState<Landed<V>>(new Map())
  const latest = useRef(landed)

  useEnded((edit, outcome) => {
    if ('value' in outcome) {
      // What was written counts, also where the page meanwhile shows nothing that the edit would change.
      latest.current = land(latest.current, sources, edit, outcome.value)
      setLanded(latest.current)
      return
    }
    const own = typedIn(edit, sources)
    if (own.length === 0) return
    if (!outcome.refused.conflict) {
      whenRefused(outcome.refused.message, own)
      dismiss(edit.id)
    }
    void refresh()
  })

  const values = useMemo(() => onTop(stored, landed, sources, waiting), [stored, landed, sources, waiting])
  const conflicts = useMemo(() => conflictsAmong(refused, sources), [refused, sources])
  const version = useCallback((record: string) => versionOf(stored, latest.current, record), [stored])
  /** Whether what the server has of a record was written from here. */
  const isOwn = useCallback(
    (record: string) => (latest.current.get(record)?.version ?? 0) >= (stored.get(record) ?? 0),
    [stored],
  )
  return { values, version, isOwn, conflicts, dismiss }
}

/** What one edit holds of these records. */
function typedIn<V>(edit: Edit, sources: readonly Source<V>[]) {
  return sources.find((s) => s.command === edit.command)?.typed(edit.input, () => undefined) ?? []
}

function conflictsAmong<V>(
  refused: readonly Refused[],
  sources: readonly Source<V>[],
): readonly Conflict<V>[] {
  return refused.flatMap(({ edit, conflict, current, message }) => {
    const mine = typedIn(edit, sources)
    return conflict && mine.length > 0
      ? [{ editId: edit.id, mine, standing: current as readonly Standing[], message }]
      : []
  })
}
