'use client'
import { useMemo } from 'react'
import type { QueryOutput } from '@/server/registry'
import { useRecorded, type Editing } from '@/screen/use-recorded'

const record = 'note {assignmentId} {studentId}'
const recordOf = (assignmentId: string, studentId: string) => `note ${assignmentId} ${studentId}`

/** The notes to scores of a gradebook, with what was typed here on top until it is saved. */
export function useNotes(
  server: QueryOutput<'marks.gradebook'>,
  { classId, date }: { classId: string; date: string },
  refresh: () => Promise<unknown>,
) {
  const { notes } = server
  const className = server.class.name
  const about = useMemo<Editing<'marks.setScoreNotes', string>>(
    () => ({
      command: 'marks.setScoreNotes',
      record,
      table: 'score_note',
      scope: `notes ${classId}`,
      place: { name: `${className}, marks`, href: `/classes/${classId}/marks?date=${date}` },
      input: { classId },
      empty: '',
    }),
    [classId, className, date],
  )
  const stored = useMemo(
    () =>
      new Map(
        notes.map((n) => [recordOf(n.assignmentId, n.studentId), { value: n.note, version: n.version }]),
      ),
    [notes],
  )
  const { recorded, values, valueAt, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  /** The cells with a note, as `assignment student`. */
  const noted = useMemo(() => {
    const all = new Map([...stored].map(([name, { value }]) => [name, value]))
    for (const [name, value] of values) all.set(name, value)
    return new Set(
      [...all].filter(([, note]) => note.trim() !== '').map(([name]) => name.slice('note '.length)),
    )
  }, [stored, values])
  return useMemo(
    () => ({
      noted,
      rejectedEdits,
      resolve,
      noteOf: (assignmentId: string, studentId: string) => valueAt(recordOf(assignmentId, studentId)),
      begin: (assignmentId: string, studentId: string) => recorded?.begin({ assignmentId, studentId }),
      save: (assignmentId: string, studentId: string, note: string, label: string) =>
        recorded?.save([{ key: { assignmentId, studentId }, value: note }], label),
    }),
    [noted, rejectedEdits, resolve, valueAt, recorded],
  )
}

export type Notes = ReturnType<typeof useNotes>
