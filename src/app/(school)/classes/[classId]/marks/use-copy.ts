'use client'
import { useCallback, useMemo, useState } from 'react'
import type { ScoreEntry } from '@/core/marks/gradebook'
import { useAtOpening } from '@/screen/form/use-opened'
import { recordOf, type Book, type CellChange } from './book'
import type { OpenGradebook } from './use-gradebook'
import { useColumnValues, useEntries, useMarks } from './use-values'

type Category = Book['categories'][number]
const nothing: ReadonlyMap<string, ScoreEntry | null> = new Map()
const none: ReadonlySet<string> = new Set()

/**
 * A copy of a gradebook as it was when it was made, for trying other scores, weights and drops. It is used as the
 * gradebook is, and nothing of it is saved.
 */
export function useCopy(of: OpenGradebook) {
  const g = useAtOpening(of)
  const [typed, setTyped] = useState(nothing)
  const [categories, setCategories] = useState<readonly Category[]>(g.book?.categories ?? [])
  const server = useMemo(
    () => ({
      ...g.server,
      mayEdit: true,
      book: g.server.book && { ...g.server.book, categories: [...categories] },
    }),
    [g.server, categories],
  )
  const { book } = server
  const entriesOf = useEntries(g.entriesOf, typed)
  const markOf = useMarks(book, entriesOf, g.datesOf)
  const columnsOf = useColumnValues(server, entriesOf, g.datesOf, markOf, g.entered.enteredBy)
  const change = (changes: readonly CellChange[]): number => {
    setTyped((before) => {
      const next = new Map(before)
      for (const { assignmentId, studentId, entry } of changes)
        next.set(recordOf(assignmentId, studentId), entry ?? null)
      return next
    })
    return changes.length
  }
  const entryAt = (assignmentId: string, studentId: string): ScoreEntry | undefined => {
    const entry = entriesOf.get(studentId)?.get(assignmentId)
    return entry && entry.kind !== 'unmarked' ? entry : undefined
  }
  const isLinked = useCallback(() => false, [])
  const setCategory = (id: string, more: Partial<Pick<Category, 'weight' | 'dropLowest'>>) =>
    setCategories((all) => all.map((c) => (c.id === id ? { ...c, ...more } : c)))
  const copy: OpenGradebook = {
    ...g,
    server,
    book,
    recorded: undefined,
    entered: { ...g.entered, recorded: undefined },
    entriesOf,
    markOf,
    columnsOf,
    entryAt,
    change,
    isLinked,
    rejectedEdits: [],
    touched: none,
  }
  return {
    copy,
    setCategory,
    isChanged: typed.size > 0 || categories.some((c, i) => c !== g.book?.categories[i]),
    /** The mark that is really in the gradebook. */
    realMarkOf: g.markOf,
    startAgain() {
      setTyped(nothing)
      setCategories(g.book?.categories ?? [])
    },
  }
}
