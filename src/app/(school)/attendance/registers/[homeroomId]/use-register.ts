'use client'
import { useMemo, useRef } from 'react'
import type { QueryOutput } from '@/server/registry'
import { useEnded } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'
import { useTouched } from '@/screen/use-touched'

export type Register = QueryOutput<'attendance.register'>
export type RegisterRow = Register['rows'][number]
export type RegisterInput = {
  readonly homeroomId: string
  readonly date: string
  readonly session: 'morning' | 'afternoon'
}

/** What a person can change about a mark. */
export interface Mark {
  readonly codeId: string | null
  readonly minutesLate: number | null
  readonly note: string | null
}

const noMark: Mark = { codeId: null, minutesLate: null, note: null }

const markOf = ({ mark }: RegisterRow): Mark =>
  mark ? { codeId: mark.codeId, minutesLate: mark.minutesLate, note: mark.note } : noMark
const textOf = ({ codeId, minutesLate, note }: Mark) => JSON.stringify([codeId, minutesLate, note])

/** A register as it is edited: one record for each student of the half-day. */
function editingOf(input: RegisterInput, name: string, rows: readonly RegisterRow[]): Editing<Mark> {
  const { homeroomId, date, session } = input
  const record = `mark ${date} ${session} {studentId}`
  const plannedAt = new Map(
    rows.map((r) => [record.replace('{studentId}', r.studentId), r.planned?.codeId] as const),
  )
  return {
    command: 'attendance.setMarks',
    record,
    table: 'attendance_mark',
    scope: `register ${homeroomId} ${date} ${session}`,
    place: { name, href: `/attendance/registers/${homeroomId}?session=${session}&date=${date}` },
    input,
    empty: noMark,
    bulk: {
      'attendance.markRest': (edit, now) =>
        rows
          .filter((r) => !r.expected)
          .map((r) => record.replace('{studentId}', r.studentId))
          .filter((r) => now(r).codeId === null)
          .map((r) => {
            const codeId = plannedAt.get(r) ?? (edit as { codeId: string }).codeId
            return [r, { ...now(r), codeId, minutesLate: null }] as const
          }),
    },
  }
}

/** A register as it is being taken: the server's marks, with what was entered here on top until it is saved. */
export function useRegister(input: RegisterInput, initial: Register, title: string) {
  const [server, refresh] = useLive('attendance.register', input, initial)
  const { homeroomId, date, session } = input
  const onRoll = server.rows
    .map((r) => `${r.studentId}${r.expected ? '?' : ''}${r.planned?.codeId ?? ''}`)
    .join()
  const about = useMemo(
    () => editingOf({ homeroomId, date, session }, title, server.rows),
    // Only who is on roll and what is planned matters; marks change with every key.
    [homeroomId, date, session, title, onRoll], // eslint-disable-line react-hooks/exhaustive-deps
  )
  const recordFor = (studentId: string) => about.record.replace('{studentId}', studentId)
  const stored = useMemo(
    () =>
      new Map(
        server.rows.map((r) => [
          about.record.replace('{studentId}', r.studentId),
          { value: markOf(r), version: r.mark?.version ?? 0 },
        ]),
      ),
    [server.rows, about],
  )
  const { recorded, values, valueAt, asides, resolve } = useRecorded(about, stored, refresh)
  const texts = useMemo(
    () => new Map(server.rows.map((r) => [r.studentId, textOf(markOf(r))])),
    [server.rows],
  )
  const touched = useTouched(
    texts,
    (studentId) => recorded?.isOwn(about.record.replace('{studentId}', studentId)) ?? true,
  )

  const drawn = useMemo(() => server.rows.map((row) => ({ ...row, now: markOf(row) })), [server.rows])
  // A row whose mark is what it was keeps the same object, so that only the row being typed in is drawn again.
  const previous = useRef(new Map<string, { from: (typeof drawn)[number]; row: (typeof drawn)[number] }>())
  const rows = useMemo(
    () =>
      drawn.map((from) => {
        const now = values.get(about.record.replace('{studentId}', from.studentId))
        if (!now) return from
        const was = previous.current.get(from.studentId)
        if (was?.from === from && textOf(was.row.now) === textOf(now)) return was.row
        const row = { ...from, now }
        previous.current.set(from.studentId, { from, row })
        return row
      }),
    [drawn, values, about],
  )
  const codeName = (codeId: string | null) => server.codes.find((c) => c.id === codeId)?.code ?? 'no mark'

  /** Changes a part of a student's mark. */
  function change(studentId: string, part: Partial<Mark>) {
    const row = rows.find((r) => r.studentId === studentId)
    if (!row) return
    const next = { ...valueAt(recordFor(studentId)), ...part }
    const label = [`${row.name}: ${codeName(next.codeId)}`, next.note].filter(Boolean).join(', ')
    recorded?.save([{ key: { studentId }, value: next }], label)
  }
  return {
    register: server,
    rows,
    recorded,
    change,
    codeName,
    asides,
    resolve,
    touched,
    refresh,
  }
}

/** Calls back when everyone without a mark was marked present, with how many that were. */
export function useRestMarked(scope: string | undefined, call: (count: number) => void): void {
  useEnded((ended) => {
    if (ended.kind === 'done' && ended.edit.command === 'attendance.markRest' && ended.edit.scope === scope)
      call(ended.versions.size)
  })
}

export type OpenRow = ReturnType<typeof useRegister>['rows'][number]
