'use client'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { Entries, Entry, Gradebook } from '@/core/marks/gradebook'
import { termMark, type TermMark } from '@/core/marks/term-mark'
import { writeEntry } from '@/core/marks/typed-score'
import type { QueryOutput } from '@/server/registry'
import type { Refused } from '@/ui/saving/outbox'
import { useSaved, useSaving } from '../../../../shared/saving'
import { useLive } from '../../../../shared/use-live'

export type GradebookAnswer = QueryOutput<'marks.gradebook'>
export type Book = NonNullable<GradebookAnswer['book']>
export type BookAssignment = Book['assignments'][number]

export interface CellChange {
  readonly assignmentId: string
  readonly studentId: string
  readonly entry: Entry | undefined
}

const keyOf = (assignmentId: string, studentId: string) => `${assignmentId} ${studentId}`
const same = (a: Entry | undefined, b: Entry | undefined) => writeEntry(a) === writeEntry(b)

function withCells(from: Entries, cells: readonly (readonly [string, Entry | null])[]): Entries {
  const entries = new Map(from)
  for (const [assignmentId, entry] of cells)
    if (entry) entries.set(assignmentId, entry)
    else entries.delete(assignmentId)
  return entries
}

export interface ScoreConflict {
  readonly refused: Refused
  readonly mine: readonly CellChange[]
}

/** A gradebook as it is being filled in: stored scores, with what was typed here on top until it is saved. */
export function useGradebook(input: { classId: string; date: string }, initial: GradebookAnswer) {
  const [server, refresh] = useLive('marks.gradebook', input, initial)
  const { save, isWaiting } = useSaving()
  const [own, setOwn] = useState<ReadonlyMap<string, Entry | null>>(new Map())
  const [conflicts, setConflicts] = useState<readonly ScoreConflict[]>([])
  const [told, setTold] = useState<{ text: string; wrong: boolean }>({ text: '', wrong: false })
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set())
  const undoStack = useRef<(readonly CellChange[])[]>([])
  const versions = useRef(new Map<string, number>())
  const lastSeen = useRef<ReadonlyMap<string, string>>(new Map())
  const { book } = server

  const stored = useMemo(
    () => new Map((book?.scores ?? []).map((s) => [keyOf(s.assignmentId, s.studentId), s])),
    [book],
  )
  useEffect(() => {
    const now = new Map([...stored].map(([key, s]) => [key, writeEntry(s.entry)]))
    if (lastSeen.current.size > 0)
      setTouched(
        new Set(
          [...now]
            .filter(
              ([key, text]) =>
                (lastSeen.current.get(key) ?? '') !== text && !versions.current.has(`own ${key}`),
            )
            .map(([key]) => key),
        ),
      )
    lastSeen.current = now
    for (const [key, s] of stored) if (!s.linked) versions.current.set(key, s.version)
    setOwn((cells) => new Map([...cells].filter(([key]) => isWaiting(`score ${key}`))))
  }, [stored, isWaiting])

  // What is stored, by student; made anew only when the server's answer is.
  const base = useMemo(() => {
    const byStudent = new Map<string, Map<string, Entry>>(server.students.map((s) => [s.id, new Map()]))
    for (const s of stored.values()) if (s.entry) byStudent.get(s.studentId)?.set(s.assignmentId, s.entry)
    return byStudent
  }, [server.students, stored])

  // With what was typed here on top. A student whose cells did not change keeps the same object, so that only the
  // rows that changed are worked out and drawn again.
  const previous = useRef(new Map<string, { from: Entries; typed: string; entries: Entries }>())
  const entriesOf = useMemo(() => {
    const typedBy = new Map<string, (readonly [string, Entry | null])[]>()
    for (const [key, entry] of own) {
      const [assignmentId = '', studentId = ''] = key.split(' ')
      typedBy.set(studentId, [...(typedBy.get(studentId) ?? []), [assignmentId, entry]])
    }
    const out = new Map<string, Entries>(base)
    const kept = new Map<string, { from: Entries; typed: string; entries: Entries }>()
    for (const [studentId, cells] of typedBy) {
      const from = base.get(studentId)
      if (!from) continue
      const typed = cells.map(([id, entry]) => `${id}=${writeEntry(entry ?? undefined)}`).join()
      const was = previous.current.get(studentId)
      const entries = was?.from === from && was.typed === typed ? was.entries : withCells(from, cells)
      kept.set(studentId, { from, typed, entries })
      out.set(studentId, entries)
    }
    previous.current = kept
    return out
  }, [base, own])

  const plain: Gradebook | undefined = book
  const worked = useRef(new Map<string, { book: Gradebook; entries: Entries; mark: TermMark }>())
  const markOf = useCallback(
    (studentId: string): TermMark | undefined => {
      const entries = entriesOf.get(studentId)
      if (!plain || !entries) return undefined
      const known = worked.current.get(studentId)
      if (known?.book === plain && known.entries === entries) return known.mark
      const mark = termMark(plain, entries, input.date)
      worked.current.set(studentId, { book: plain, entries, mark })
      return mark
    },
    [plain, entriesOf, input.date],
  )

  const send = useCallback(
    (changes: readonly CellChange[], label: string) => {
      setOwn(
        (cells) =>
          new Map([
            ...cells,
            ...changes.map((c) => [keyOf(c.assignmentId, c.studentId), c.entry ?? null] as const),
          ]),
      )
      const only = changes.length === 1 ? changes[0] : undefined
      for (const c of changes) versions.current.set(`own ${keyOf(c.assignmentId, c.studentId)}`, 1)
      save(
        'marks.setScores',
        {
          classId: input.classId,
          cells: changes.map((c) => ({
            assignmentId: c.assignmentId,
            studentId: c.studentId,
            entry: c.entry ?? null,
            expectedVersion: versions.current.get(keyOf(c.assignmentId, c.studentId)) ?? 0,
          })),
        },
        {
          slot: only ? `score ${keyOf(only.assignmentId, only.studentId)}` : `scores ${crypto.randomUUID()}`,
          label,
        },
      )
    },
    [input.classId, save],
  )

  useSaved('marks.setScores', (edit, outcome) => {
    if (edit.classId !== input.classId) return
    if ('value' in outcome) {
      for (const w of outcome.value) versions.current.set(keyOf(w.assignmentId, w.studentId), w.version)
      return
    }
    const mine = edit.cells.map((c) => ({
      assignmentId: c.assignmentId,
      studentId: c.studentId,
      entry: c.entry ?? undefined,
    }))
    if (outcome.refused.conflict) setConflicts((all) => [...all, { refused: outcome.refused, mine }])
    else setTold({ text: `Not saved: ${outcome.refused.message}`, wrong: true })
    setOwn(
      (cells) =>
        new Map([...cells].filter(([key]) => !mine.some((c) => keyOf(c.assignmentId, c.studentId) === key))),
    )
    void refresh()
  })

  const entryAt = (assignmentId: string, studentId: string) => entriesOf.get(studentId)?.get(assignmentId)
  const isLinked = (assignmentId: string, studentId: string) =>
    stored.get(keyOf(assignmentId, studentId))?.linked ?? false

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
  function resolve(conflict: ScoreConflict, keep: 'mine' | 'theirs') {
    setConflicts((all) => all.filter((c) => c !== conflict))
    const current = conflict.refused.current as readonly {
      assignment_id: string
      student_id: string
      version: number
    }[]
    for (const c of current) versions.current.set(keyOf(c.assignment_id, c.student_id), c.version)
    if (keep === 'mine') send(conflict.mine, 'My scores after all')
  }
  return {
    server,
    book,
    markOf,
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
