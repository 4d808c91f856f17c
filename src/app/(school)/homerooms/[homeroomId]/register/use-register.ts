'use client'
import { useMemo, useRef, useState } from 'react'
import type { QueryOutput } from '@/server/registry'
import { useSaved, useSaving } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { useTouched } from '@/screen/use-touched'
import { cellSource, source, useTyped } from '@/screen/use-typed'

export type Register = QueryOutput<'attendance.register'>
export type RegisterRow = Register['rows'][number]
export type Mark = NonNullable<RegisterRow['mark']>
export type RegisterInput = {
  readonly homeroomId: string
  readonly date: string
  readonly session: 'morning' | 'afternoon'
}

/** What a person can change about a mark. */
export interface MarkChange {
  readonly codeId: string | null
  readonly minutesLate: number | null
  readonly note: string | null
}

export interface Conflict {
  readonly studentId: string
  readonly theirs: (MarkChange & { readonly version: number; readonly changedBy: string }) | null
  readonly mine: MarkChange
  readonly editId: string
}

type Undo =
  | { readonly kind: 'mark'; readonly studentId: string; readonly before: MarkChange }
  | { readonly kind: 'rest'; readonly run: string; readonly count: number }

const changeOf = (mark: Mark | null | undefined): MarkChange => ({
  codeId: mark?.codeId ?? null,
  minutesLate: mark?.minutesLate ?? null,
  note: mark?.note ?? null,
})
const textOf = ({ codeId, minutesLate, note }: MarkChange) => JSON.stringify([codeId, minutesLate, note])
/** The commands that change marks of one session. */
function sourcesOf(input: RegisterInput, rows: readonly RegisterRow[]) {
  const isHere = (edit: RegisterInput) =>
    edit.homeroomId === input.homeroomId && edit.date === input.date && edit.session === input.session
  const stored = new Map(rows.map((r) => [r.studentId, changeOf(r.mark)]))
  /** A mark with another code; a note stays. */
  const withCode = (studentId: string, codeId: string | null): MarkChange => ({
    codeId,
    minutesLate: null,
    note: stored.get(studentId)?.note ?? null,
  })
  return [
    cellSource('attendance.setMarks', { isHere, recordOf: (key) => key.studentId }),
    source<'attendance.markRest', MarkChange>(
      'attendance.markRest',
      (edit, before) =>
        isHere(edit)
          ? rows
              .filter((r) => !r.expected && (before(r.studentId) ?? changeOf(r.mark)).codeId === null)
              .map((r) => [r.studentId, withCode(r.studentId, edit.codeId)])
          : [],
      (edit, answer) =>
        isHere(edit)
          ? answer.map((m) => [m.key.studentId, withCode(m.key.studentId, edit.codeId), m.version])
          : [],
    ),
    source<'history.undo', MarkChange>(
      'history.undo',
      () => [],
      (_edit, { restored }) =>
        restored.flatMap(({ table, key, version }) =>
          table === 'attendance_mark' && key.sessionDate === input.date && key.session === input.session
            ? [[key.studentId ?? '', withCode(key.studentId ?? '', null), version] as const]
            : [],
        ),
    ),
  ]
}

/** A register as it is being taken: the server's marks, with what was typed here on top until it is saved. */
export function useRegister(input: RegisterInput, initial: Register) {
  const [server, refresh] = useLive('attendance.register', input, initial)
  const { save } = useSaving()
  const [told, setTold] = useState('')
  const undoStack = useRef<Undo[]>([])

  const stored = useMemo(
    () => new Map(server.rows.map((r) => [r.studentId, r.mark?.version ?? 0])),
    [server.rows],
  )
  const sources = useMemo(() => sourcesOf(input, server.rows), [input, server.rows])
  const typed = useTyped(stored, sources, {
    refresh,
    whenRefused: (message) => setTold(`Not saved: ${message}`),
  })
  const texts = useMemo(
    () => new Map(server.rows.map((r) => [r.studentId, textOf(changeOf(r.mark))])),
    [server.rows],
  )
  const touched = useTouched(texts, typed.isOwn)

  const drawn = useMemo(() => server.rows.map((row) => ({ ...row, now: changeOf(row.mark) })), [server.rows])
  // A row whose mark is what it was keeps the same object, so that only the row one types in is drawn again.
  const previous = useRef(new Map<string, { from: (typeof drawn)[number]; row: (typeof drawn)[number] }>())
  const rows = useMemo(
    () =>
      drawn.map((from) => {
        const now = typed.values.get(from.studentId)
        if (!now) return from
        const was = previous.current.get(from.studentId)
        if (was?.from === from && textOf(was.row.now) === textOf(now)) return was.row
        const row = { ...from, now }
        previous.current.set(from.studentId, { from, row })
        return row
      }),
    [drawn, typed.values],
  )

  function put(row: RegisterRow, change: MarkChange, label: string, base = typed.version(row.studentId)) {
    save(
      'attendance.setMarks',
      { ...input, cells: [{ key: { studentId: row.studentId }, value: change, seen: base }] },
      { slot: `mark ${row.studentId} ${input.date} ${input.session}`, label },
    )
  }

  useSaved('attendance.markRest', (edit, outcome) => {
    if (edit.date !== input.date || edit.session !== input.session || edit.homeroomId !== input.homeroomId)
      return
    if ('refused' in outcome) setTold(`Not saved: ${outcome.refused.message}`)
    else if (outcome.value.length === 0) setTold('Someone else has already marked everyone.')
    else {
      const { run = '', value } = outcome
      undoStack.current.push({ kind: 'rest', run, count: value.length })
      setTold(`${value.length} marked present. Ctrl Z takes it back.`)
    }
    void refresh()
  })

  const nameOfCode = (codeId: string | null) => server.codes.find((c) => c.id === codeId)?.code ?? 'no mark'

  function mark(studentId: string, change: Partial<MarkChange>) {
    const row = rows.find((r) => r.studentId === studentId)
    if (!row) return
    const next = { ...row.now, ...change }
    if (textOf(next) === textOf(row.now)) return
    undoStack.current.push({ kind: 'mark', studentId, before: row.now })
    put(row, next, `${row.name}, ${nameOfCode(next.codeId)}${next.note ? `, ${next.note}` : ''}`)
    setTold('')
  }

  function markRest() {
    const present = server.codes.find((c) => c.meaning === 'present')
    const open = rows.filter((r) => r.now.codeId === null && !r.expected)
    if (!present || open.length === 0) return setTold('Everyone on roll has a mark already.')
    save(
      'attendance.markRest',
      { ...input, codeId: present.id },
      {
        slot: `rest ${input.homeroomId} ${input.date} ${input.session}`,
        label: `The rest present, ${open.length} students`,
      },
    )
  }

  /** Takes back the last act; answers the student it was about. */
  function undo(): string | undefined {
    const last = undoStack.current.pop()
    if (!last) {
      setTold('Nothing to undo.')
      return undefined
    }
    if (last.kind === 'rest') {
      save(
        'history.undo',
        { run: last.run },
        { slot: `undo ${last.run}`, label: 'Undo marking the rest present' },
      )
      setTold(`${last.count} marks taken back.`)
      return undefined
    }
    const row = rows.find((r) => r.studentId === last.studentId)
    if (row) {
      put(row, last.before, `${row.name}, undone`)
      setTold(`${row.name} is ${nameOfCode(last.before.codeId)} again.`)
    }
    return last.studentId
  }
  useSaved('history.undo', (_edit, outcome) => {
    if ('refused' in outcome) setTold(outcome.refused.message)
    void refresh()
  })

  const conflicts = typed.conflicts.flatMap(({ editId, mine, standing }) =>
    mine.map(([studentId, change]): Conflict => {
      const saved = standing.find((s) => (s.key as { studentId: string }).studentId === studentId)
      const theirs = saved && { ...(saved.value as MarkChange), version: saved.version, changedBy: saved.by }
      return { studentId, editId, mine: change, theirs: saved?.version ? (theirs ?? null) : null }
    }),
  )
  function resolve(conflict: Conflict, keep: 'mine' | 'theirs') {
    typed.dismiss(conflict.editId)
    const row = rows.find((r) => r.studentId === conflict.studentId)
    if (!row || keep === 'theirs') return
    put(row, conflict.mine, `${row.name}, ${nameOfCode(conflict.mine.codeId)}`, conflict.theirs?.version ?? 0)
  }

  return { register: server, rows, mark, markRest, undo, conflicts, resolve, told, setTold, touched }
}

export type OpenRow = ReturnType<typeof useRegister>['rows'][number]
