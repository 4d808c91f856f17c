'use client'
import { useCallback, useMemo } from 'react'
import type { CellEntry, ScoreEntry } from '@/core/marks/gradebook'
import { writeEntry } from '@/core/marks/typed-score'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'
import { useTouched } from '@/screen/use-touched'
import { recordOf, scoreRecord, type CellChange, type GradebookAnswer } from './book'
import { useEntered } from './use-entered'
import { useNotes } from './use-notes'
import { useColumnValues, useEntries, useMarks } from './use-values'

/** What can be typed in a cell of what stands in it. */
const typedEntry = (entry: CellEntry | undefined): ScoreEntry | null =>
  entry && entry.kind !== 'unmarked' ? entry : null

/** A gradebook as it is being filled in: stored scores, with what was typed here on top until it is saved. */
export function useGradebook(input: { classId: string; date: string }, initial: GradebookAnswer) {
  const { classId, date } = input
  const [server, refresh] = useLive('marks.gradebook', input, initial)
  const { book } = server
  const className = server.class.name
  const about = useMemo<Editing<'marks.setScores', ScoreEntry | null>>(
    () => ({
      command: 'marks.setScores',
      record: scoreRecord,
      table: 'score',
      scope: `scores ${classId}`,
      place: { name: `${className}, marks`, href: `/classes/${classId}/marks?date=${date}` },
      input: { classId },
      empty: null,
    }),
    [classId, className, date],
  )
  const scores = useMemo(
    () => new Map((book?.scores ?? []).map((s) => [recordOf(s.assignmentId, s.studentId), s])),
    [book],
  )
  const stored = useMemo(
    () =>
      new Map(
        [...scores].map(([name, s]) => [
          name,
          { value: typedEntry(s.entry), version: s.linked ? 0 : s.version },
        ]),
      ),
    [scores],
  )
  const { recorded, values, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  const texts = useMemo(() => new Map([...scores].map(([name, s]) => [name, writeEntry(s.entry)])), [scores])
  const touched = useTouched(texts, (name) => !scores.get(name)?.linked && (recorded?.isOwn(name) ?? true))

  const storedBy = useMemo(() => {
    const byStudent = new Map<string, Map<string, CellEntry>>(server.students.map((s) => [s.id, new Map()]))
    for (const s of scores.values()) if (s.entry) byStudent.get(s.studentId)?.set(s.assignmentId, s.entry)
    return byStudent
  }, [server.students, scores])
  const entriesOf = useEntries(storedBy, values)
  const since = useMemo(() => new Map(server.students.map((s) => [s.id, s.since])), [server.students])
  const datesOf = useCallback(
    (studentId: string) => ({ on: date, since: since.get(studentId) ?? date }),
    [date, since],
  )
  const markOf = useMarks(book, entriesOf, datesOf)
  const entered = useEntered(server, input, refresh)
  const notes = useNotes(server, input, refresh)
  const columnsOf = useColumnValues(server, entriesOf, datesOf, markOf, entered.enteredBy)
  const isLinked = useCallback(
    (assignmentId: string, studentId: string) =>
      scores.get(recordOf(assignmentId, studentId))?.linked ?? false,
    [scores],
  )
  /** What a cell holds at this moment. */
  const entryAt = (assignmentId: string, studentId: string): ScoreEntry | undefined =>
    recorded?.valueNow({ assignmentId, studentId }) ?? undefined
  /** Saves what is entered in some cells; those that come from an assessment are left alone. */
  const change = (changes: readonly CellChange[], label: string): number =>
    recorded?.save(
      changes
        .filter((c) => !isLinked(c.assignmentId, c.studentId))
        .map(({ assignmentId, studentId, entry }) => ({
          key: { assignmentId, studentId },
          value: entry ?? null,
        })),
      label,
    ) ?? 0
  /** Takes back what was entered last, or does it again. */
  const step = (word: 'undo' | 'redo') => recorded?.[word]()
  return {
    server,
    book,
    recorded,
    step,
    markOf,
    columnsOf,
    entered,
    notes,
    datesOf,
    entriesOf,
    entryAt,
    isLinked,
    change,
    rejectedEdits,
    resolve,
    touched,
    refresh,
  }
}

export type OpenGradebook = ReturnType<typeof useGradebook>
