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

/** What is tried on the copy, and what was done to get there. */
interface Tried {
  readonly typed: ReadonlyMap<string, ScoreEntry | null>
  readonly categories: readonly Category[]
}
/** A step in words, with the cells it was about and what was there before it. */
interface Step {
  readonly label: string
  readonly keys: readonly { readonly assignmentId: string; readonly studentId: string }[]
  readonly before: Tried
}
interface Trials extends Tried {
  readonly past: readonly Step[]
  /** What was taken back, the latest last; `before` is what it comes back to. */
  readonly future: readonly Step[]
  /** How often something was taken back or started again, for fields that hold a text of their own. */
  readonly restored: number
}

/** One more step. Typing on in the same field is one step. */
function stepped(now: Trials, { label, keys, ...next }: Tried & Omit<Step, 'before'>): Trials {
  const before = { typed: now.typed, categories: now.categories }
  const goesOn = keys.length === 0 && now.past.at(-1)?.label === label
  return { ...now, ...next, past: goesOn ? now.past : [...now.past, { label, keys, before }], future: [] }
}

/** Back one step, or on again. */
function moved(now: Trials, word: 'undo' | 'redo'): Trials {
  const [from, to] = word === 'undo' ? (['past', 'future'] as const) : (['future', 'past'] as const)
  const step = now[from].at(-1)
  if (!step) return now
  const before = { typed: now.typed, categories: now.categories }
  return {
    ...now,
    ...step.before,
    [from]: now[from].slice(0, -1),
    [to]: [...now[to], { ...step, before }],
    restored: now.restored + 1,
  }
}

/**
 * A copy of a gradebook as it was when it was made, for trying other scores, weights and drops. It is used as the
 * gradebook is, and nothing of it is saved.
 */
export function useCopy(of: OpenGradebook) {
  const g = useAtOpening(of)
  const asItIs: Tried = { typed: nothing, categories: g.book?.categories ?? [] }
  const [trials, setTrials] = useState<Trials>({ ...asItIs, past: [], future: [], restored: 0 })
  const { typed, categories } = trials
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
  const change = (changes: readonly CellChange[], label: string): number => {
    setTrials((now) => {
      const next = new Map(now.typed)
      for (const { assignmentId, studentId, entry } of changes)
        next.set(recordOf(assignmentId, studentId), entry ?? null)
      return stepped(now, { label, keys: changes, typed: next, categories: now.categories })
    })
    return changes.length
  }
  const step = (word: 'undo' | 'redo') => {
    const done = trials[word === 'undo' ? 'past' : 'future'].at(-1)
    setTrials((now) => moved(now, word))
    return done
  }
  const entryAt = (assignmentId: string, studentId: string): ScoreEntry | undefined => {
    const entry = entriesOf.get(studentId)?.get(assignmentId)
    return entry && entry.kind !== 'unmarked' ? entry : undefined
  }
  const isLinked = useCallback(() => false, [])
  const setCategory = (
    { id, name }: Category,
    what: 'weight' | 'drops',
    more: Partial<Pick<Category, 'weight' | 'dropLowest'>>,
  ) =>
    setTrials((now) =>
      stepped(now, {
        label: `${what} of ${name}`,
        keys: [],
        typed: now.typed,
        categories: now.categories.map((c) => (c.id === id ? { ...c, ...more } : c)),
      }),
    )
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
    step,
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
    restored: trials.restored,
    step,
    canStep: (word: 'undo' | 'redo') => trials[word === 'undo' ? 'past' : 'future'].length > 0,
    startAgain: () =>
      setTrials((now) => ({
        ...stepped(now, { label: 'starting again', keys: [], ...asItIs }),
        restored: now.restored + 1,
      })),
  }
}
