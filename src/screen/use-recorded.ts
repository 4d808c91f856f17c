'use client'
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import type { CommandName } from '@/server/registry'
import type { Aside } from '@/ui/saving/shelf'
import { Recorded, type About, type Stored } from '@/ui/saving/recorded'
import { newKey } from './server'
import { useOutboxState, useSaving } from './saving'

/** What a page edits; commands are those of the registry. */
export type Editing<V> = About<V> & { readonly command: CommandName }

/**
 * The records of a page as they are edited: saved as they are typed, with what was typed on top of the server's answer,
 * undo, redo and conflicts.
 * @param about what is edited; the same object as long as it is the same
 * @param stored the records in the server's answer
 * @param refresh asks the server again
 */
export function useRecorded<V>(
  about: Editing<V>,
  stored: ReadonlyMap<string, Stored<V>>,
  refresh: () => Promise<unknown>,
) {
  const { outbox } = useSaving()
  const state = useOutboxState()
  const latest = useRef(refresh)
  useEffect(() => {
    latest.current = refresh
  })
  const recorded = useMemo(
    () =>
      outbox &&
      new Recorded<V>(outbox, about, {
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
  const asides = useMemo(() => recorded?.asideOf(state) ?? [], [recorded, state])
  const valueAt = useCallback(
    (record: string): V =>
      values.has(record) ? (values.get(record) as V) : (stored.get(record)?.value ?? about.empty),
    [values, stored, about],
  )
  /** After a conflict: whose value stays. After a refusal: whether to send it again. */
  const resolve = useCallback(
    (aside: Aside, keep: 'mine' | 'theirs') => {
      if (keep === 'mine') outbox?.tryAgain(aside.edit.id)
      else outbox?.discard(aside.edit.id)
    },
    [outbox],
  )
  return { recorded, values, valueAt, asides, resolve }
}

/** What a conflict is about: what was typed here and what is saved, record by record. */
export function contested<V>(recorded: Recorded<V> | undefined, { edit, standing }: Aside, empty: V) {
  return (recorded?.typedIn(edit, () => empty) ?? []).map(([record, mine]) => {
    const saved = standing.find((s) => recorded?.recordOf(s.key as Record<string, unknown>) === record)
    return {
      record,
      mine,
      theirs: (saved?.value as V | null | undefined) ?? empty,
      by: saved?.by || 'Someone else',
    }
  })
}
