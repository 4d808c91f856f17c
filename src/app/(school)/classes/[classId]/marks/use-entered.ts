'use client'
import { useCallback, useMemo, useRef } from 'react'
import type { QueryOutput } from '@/server/registry'
import { useRecorded, type Editing } from '@/screen/use-recorded'

const record = 'column entry {columnId} {studentId}'
const recordOf = (columnId: string, studentId: string) => `column entry ${columnId} ${studentId}`

/** The cell of a column entered by hand that a record is. */
export function entryCellOf(name: string): { readonly columnId: string; readonly studentId: string } {
  const [, , columnId = '', studentId = ''] = name.split(' ')
  return { columnId, studentId }
}

const nothing: ReadonlyMap<string, string> = new Map()

/** What is entered by hand in the columns of a gradebook, with what was typed here on top until it is saved. */
export function useEntered(
  server: QueryOutput<'marks.gradebook'>,
  { classId, date }: { classId: string; date: string },
  refresh: () => Promise<unknown>,
) {
  const { entries } = server
  const className = server.class.name
  const about = useMemo<Editing<'marks.setColumnEntries', string | null>>(
    () => ({
      command: 'marks.setColumnEntries',
      record,
      table: 'column_entry',
      scope: `column entries ${classId}`,
      place: { name: `${className}, marks`, href: `/classes/${classId}/marks?date=${date}` },
      input: { classId },
      empty: null,
    }),
    [classId, className, date],
  )
  const stored = useMemo(
    () =>
      new Map(
        entries.map((e) => [recordOf(e.columnId, e.studentId), { value: e.value, version: e.version }]),
      ),
    [entries],
  )
  const { recorded, values, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  const before = useRef(new Map<string, ReadonlyMap<string, string>>())
  const byStudent = useMemo(() => {
    const all = new Map<string, Map<string, string>>()
    const put = (name: string, value: string | null) => {
      const { columnId, studentId } = entryCellOf(name)
      const own = all.get(studentId) ?? new Map<string, string>()
      if (value === null) own.delete(columnId)
      else own.set(columnId, value)
      all.set(studentId, own)
    }
    for (const [name, { value }] of stored) put(name, value)
    for (const [name, value] of values) put(name, value)
    // A student whose entries did not change keeps the same object, so that only rows that changed are drawn again.
    const kept = new Map<string, ReadonlyMap<string, string>>()
    for (const [studentId, own] of all) {
      const was = before.current.get(studentId)
      const isSame = was?.size === own.size && [...own].every(([id, value]) => was.get(id) === value)
      kept.set(studentId, isSame && was ? was : own)
    }
    before.current = kept
    return kept
  }, [stored, values])
  /** What is entered for a student, by column. */
  const enteredBy = useCallback((studentId: string) => byStudent.get(studentId) ?? nothing, [byStudent])
  return { recorded, enteredBy, rejectedEdits, resolve }
}
