'use client'
import { useCallback, useMemo, useRef, useState } from 'react'
import type { Entries, Entry, Gradebook } from '@/core/marks/gradebook'
import { termMark, type Dates, type TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import type { QueryOutput } from '@/server/registry'
import { useSaving } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { useTouched } from '@/screen/use-touched'
import { cellSource, useTyped } from '@/screen/use-typed'

export type GradebookAnswer = QueryOutput<'marks.gradebook'>
export type Book = NonNullable<GradebookAnswer['book']>
export type BookAssignment = Book['assignments'][number]

export interface CellChange {
  readonly assignmentId: string
  readonly studentId: string
  readonly entry: Entry | undefined
}
/** A saved score that an edit did not expect. */
interface StandingScore extends CellChange {
  readonly version: number
}

const keyOf = (assignmentId: string, studentId: string) => `${assignmentId} ${studentId}`
const cellOf = (key: string, entry: Entry | null): CellChange => {
  const [assignmentId = '', studentId = ''] = key.split(' ')
  return { assignmentId, studentId, entry: entry ?? undefined }
}
const same = (a: Entry | undefined, b: Entry | undefined) => writeEntry(a) === writeEntry(b)

const scoresOf = (classId: string) =>
  cellSource('marks.setScores', {
    isHere: (edit) => edit.classId === classId,
    recordOf: (key) => keyOf(key.assignmentId, key.studentId),
  })

/** A student's entries as stored, with what was typed on top. */
function withCells(from: Entries, cells: readonly CellChange[]): Entries {
  const entries = new Map(from)
  for (const { assignmentId, entry } of cells)
    if (entry) entries.set(assignmentId, entry)
    else entries.delete(assignmentId)
  return entries
}

/**
 * Everybody's entries with what was typed on top. A student whose cells did not change keeps the same object, so
 * that only the rows that changed are worked out and drawn again.
 */
function useEntries(
  stored: ReadonlyMap<string, Entries>,
  typed: ReadonlyMap<string, Entry | null>,
): ReadonlyMap<string, Entries> {
  const previous = useRef(new Map<string, { from: Entries; typed: string; entries: Entries }>())
  return useMemo(() => {
    const typedBy = new Map<string, CellChange[]>()
    for (const [key, entry] of typed) {
      const cell = cellOf(key, entry)
      typedBy.set(cell.studentId, [...(typedBy.get(cell.studentId) ?? []), cell])
    }
    const out = new Map(stored)
    const kept = new Map<string, { from: Entries; typed: string; entries: Entries }>()
    for (const [studentId, cells] of typedBy) {
      const from = stored.get(studentId)
      if (!from) continue
      const text = cells.map((c) => `${c.assignmentId}=${writeEntry(c.entry)}`).join()
      const was = previous.current.get(studentId)
      const entries = was?.from === from && was.typed === text ? was.entries : withCells(from, cells)
      kept.set(studentId, { from, typed: text, entries })
      out.set(studentId, entries)
    }
    previous.current = kept
    return out
  }, [stored, typed])
}

/** Term marks, each worked out once for the entries it rests on. */
function useMarks(
  book: Gradebook | undefined,
  entriesOf: ReadonlyMap<string, Entries>,
  datesOf: (studentId: string) => Dates,
): (studentId: string) => TermMark | undefined {
  const worked = useRef(new WeakMap<Entries, { book: Gradebook; mark: TermMark }>())
  return useCallback(
    (studentId) => {
      const entries = entriesOf.get(studentId)
      if (!book || !entries) return undefined
      const known = worked.current.get(entries)
      if (known?.book === book) return known.mark
      const mark = termMark(book, entries, datesOf(studentId))
      worked.current.set(entries, { book, mark })
      return mark
    },
    [book, entriesOf, datesOf],
  )
}

/** A gradebook as it is being filled in: stored scores, with what was typed here on top until it is saved. */
export function useGradebook(input: { classId: string; date: string }, initial: GradebookAnswer) {
  const { classId, date } = input
  const [server, refresh] = useLive('marks.gradebook', input, initial)
  const { save } = useSaving()
  const [told, setTold] = useState<{ text: string; wrong: boolean }>({ text: '', wrong: false })
  const undoStack = useRef<(readonly CellChange[])[]>([])
  const { book } = server

  const stored = useMemo(
    () => new Map((book?.scores ?? []).map((s) => [keyOf(s.assignmentId, s.studentId), s])),
    [book],
  )
  const versions = useMemo(
    () => new Map([...stored].map(([key, s]) => [key, s.linked ? 0 : s.version])),
    [stored],
  )
  const sources = useMemo(() => [scoresOf(classId)], [classId])
  const typed = useTyped(versions, sources, {
    refresh,
    whenRefused: (message) => setTold({ text: `Not saved: ${message}`, wrong: true }),
  })
  const texts = useMemo(() => new Map([...stored].map(([key, s]) => [key, writeEntry(s.entry)])), [stored])
  const touched = useTouched(texts, (key) => !stored.get(key)?.linked && typed.isOwn(key))

  const storedBy = useMemo(() => {
    const byStudent = new Map<string, Map<string, Entry>>(server.students.map((s) => [s.id, new Map()]))
    for (const s of stored.values()) if (s.entry) byStudent.get(s.studentId)?.set(s.assignmentId, s.entry)
    return byStudent
  }, [server.students, stored])
  const entriesOf = useEntries(storedBy, typed.values)
  const since = useMemo(() => new Map(server.students.map((s) => [s.id, s.since])), [server.students])
  const datesOf = useCallback(
    (studentId: string) => ({ on: date, since: since.get(studentId) ?? date }),
    [date, since],
  )
  const markOf = useMarks(book, entriesOf, datesOf)
  const entryAt = (assignmentId: string, studentId: string) => entriesOf.get(studentId)?.get(assignmentId)
  const isLinked = useCallback(
    (assignmentId: string, studentId: string) => stored.get(keyOf(assignmentId, studentId))?.linked ?? false,
    [stored],
  )

  function send(
    changes: readonly CellChange[],
    label: string,
    base: ReadonlyMap<string, number> = new Map(),
  ) {
    const only = changes.length === 1 ? changes[0] : undefined
    save(
      'marks.setScores',
      {
        classId,
        cells: changes.map(({ assignmentId, studentId, entry }) => {
          const key = keyOf(assignmentId, studentId)
          return {
            key: { assignmentId, studentId },
            value: entry ?? null,
            seen: base.get(key) ?? typed.version(key),
          }
        }),
      },
      {
        slot: only ? `score ${keyOf(only.assignmentId, only.studentId)}` : `scores ${crypto.randomUUID()}`,
        label,
      },
    )
  }

  /** Changes cells, remembering what was there. Cells that would not change are left alone. */
  function change(changes: readonly CellChange[], label: string, remember = true): number {
    const real = changes.filter(
      (c) => !same(entryAt(c.assignmentId, c.studentId), c.entry) && !isLinked(c.assignmentId, c.studentId),
    )
    if (real.length === 0) return 0
    if (remember)
      undoStack.current.push(real.map((c) => ({ ...c, entry: entryAt(c.assignmentId, c.studentId) })))
    send(real, label)
    return real.length
  }
  /** Takes back the last change; answers a cell it was about. */
  function undo(): CellChange | undefined {
    const last = undoStack.current.pop()
    if (!last) {
      setTold({ text: 'Nothing to undo.', wrong: false })
      return undefined
    }
    change(last, 'Undo', false)
    setTold({ text: last.length === 1 ? 'Undone.' : `${last.length} cells are as they were.`, wrong: false })
    return last[0]
  }
  const conflicts = typed.conflicts.map(({ editId, mine, message, standing }): ScoreConflict => ({
    editId,
    message,
    mine: mine.map(([key, entry]) => cellOf(key, entry)),
    standing: standing.map((s) => {
      const { assignmentId, studentId } = s.key as { assignmentId: string; studentId: string }
      return { ...cellOf(keyOf(assignmentId, studentId), s.value as Entry | null), version: s.version }
    }),
  }))
  function resolve(conflict: ScoreConflict, keep: 'mine' | 'theirs') {
    typed.dismiss(conflict.editId)
    const base = new Map(conflict.standing.map((s) => [keyOf(s.assignmentId, s.studentId), s.version]))
    if (keep === 'mine') send(conflict.mine, 'My scores after all', base)
  }
  return {
    server,
    book,
    markOf,
    datesOf,
    entriesOf,
    entryAt,
    isLinked,
    change,
    undo,
    conflicts,
    resolve,
    told,
    setTold,
    touched,
    refresh,
  }
}

export type OpenGradebook = ReturnType<typeof useGradebook>
export interface ScoreConflict {
  readonly editId: string
  readonly message: string
  readonly mine: readonly CellChange[]
  readonly standing: readonly StandingScore[]
}
