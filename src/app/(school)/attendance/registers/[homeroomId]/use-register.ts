'use client'
import { useMemo, useRef } from 'react'
import type { QueryOutput } from '@/server/registry'
import { useEnded } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'
import { useTouched } from '@/screen/use-touched'

export type Register = QueryOutput<'attendance.register'>
export type RegisterRow = Register['rows'][number]
/** A half-day of a homeroom, or a lesson of a class; its session is the number of its period. */
export type RegisterInput =
  | { readonly homeroomId: string; readonly date: string; readonly session: 'morning' | 'afternoon' }
  | { readonly classId: string; readonly date: string; readonly session: string }

/** Where a register is read, written and found. */
const pathsOf = (input: RegisterInput) =>
  'classId' in input
    ? ({
        query: 'attendance.lessonRegister',
        setMarks: 'attendance.setLessonMarks',
        markRest: 'attendance.markLessonRest',
        id: input.classId,
        href: `/classes/${input.classId}/register`,
      } as const)
    : ({
        query: 'attendance.register',
        setMarks: 'attendance.setMarks',
        markRest: 'attendance.markRest',
        id: input.homeroomId,
        href: `/attendance/registers/${input.homeroomId}`,
      } as const)

/** The register of another session, as the address after `?`. */
export const sessionQuery = ({ date, session }: { readonly date: string; readonly session: string }) =>
  `?session=${session}&date=${date}`

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

/** A register as it is edited: one record for each student of the session. */
function editingOf(
  input: RegisterInput,
  name: string,
  rows: readonly RegisterRow[],
): Editing<'attendance.setMarks' | 'attendance.setLessonMarks', Mark> {
  const { date, session } = input
  const paths = pathsOf(input)
  const record = `mark ${date} ${session} {studentId}` as const
  const plannedAt = new Map(
    rows.map((r) => [record.replace('{studentId}', r.studentId), r.planned?.codeId] as const),
  )
  return {
    command: paths.setMarks,
    record,
    table: 'attendance_mark',
    scope: `register ${paths.id} ${date} ${session}`,
    place: { name, href: `${paths.href}${sessionQuery(input)}` },
    input,
    empty: noMark,
    bulk: {
      [paths.markRest]: (edit: unknown, now: (record: string) => Mark) =>
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

type DrawnRow = RegisterRow & { readonly now: Mark }

const drawnRows = new WeakMap<RegisterRow, DrawnRow>()

/** A row with its mark as stored. The same row is the same object: an answer in which it did not change keeps it. */
function asDrawn(row: RegisterRow): DrawnRow {
  const known = drawnRows.get(row)
  if (known) return known
  const drawn = { ...row, now: markOf(row) }
  drawnRows.set(row, drawn)
  return drawn
}

/** A register as it is being taken: the server's marks, with what was entered here on top until it is saved. */
export function useRegister(input: RegisterInput, initial: Register, title: string) {
  const paths = pathsOf(input)
  const [server, refresh] = useLive(paths.query as 'attendance.register', input as never, initial)
  const onRoll = server.rows
    .map((r) => `${r.studentId}${r.expected ? '?' : ''}${r.planned?.codeId ?? ''}`)
    .join()
  const about = useMemo(
    () => editingOf(input, title, server.rows),
    // Only who is on roll and what is planned matters; marks change with every key.
    [paths.id, input.date, input.session, title, onRoll], // eslint-disable-line react-hooks/exhaustive-deps
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
  const { recorded, values, valueAt, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  const texts = useMemo(
    () => new Map(server.rows.map((r) => [r.studentId, textOf(markOf(r))])),
    [server.rows],
  )
  const touched = useTouched(
    texts,
    (studentId) => recorded?.isOwn(about.record.replace('{studentId}', studentId)) ?? true,
  )

  const drawn = useMemo(() => server.rows.map(asDrawn), [server.rows])
  // A row whose mark is what it was keeps the same object, so that only the row being typed in is drawn again.
  const previous = useRef(new Map<string, { from: DrawnRow; row: DrawnRow }>())
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
    rejectedEdits,
    resolve,
    touched,
    refresh,
    markRest: paths.markRest,
    scope: about.scope,
  }
}

/** Calls back when everyone without a mark was marked present, with how many that were. */
export function useRestMarked(scope: string | undefined, call: (count: number) => void): void {
  useEnded((ended) => {
    if (ended.kind === 'done' && ended.edit.command.endsWith('Rest') && ended.edit.scope === scope)
      call(ended.versions.size)
  })
}

export type OpenRow = ReturnType<typeof useRegister>['rows'][number]
