'use client'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { CommandInput, QueryOutput } from '@/server/registry'
import { useSaved, useSaving } from '../../../../shared/saving'
import { useLive } from '../../../../shared/use-live'

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
  readonly theirs: Mark | null
  readonly mine: MarkChange
  readonly editId: string
}

type Undo =
  | { readonly kind: 'mark'; readonly studentId: string; readonly before: MarkChange }
  | { readonly kind: 'rest'; readonly marks: readonly { studentId: string; version: number }[] }

const emptyChange: MarkChange = { codeId: null, minutesLate: null, note: null }
const changeOf = (mark: Mark | null | undefined): MarkChange =>
  mark ? { codeId: mark.codeId, minutesLate: mark.minutesLate, note: mark.note } : emptyChange

/** A register as it is being taken: the server's marks, with what was typed here on top until it is saved. */
export function useRegister(input: RegisterInput, initial: Register) {
  const [server, refresh] = useLive('attendance.register', input, initial)
  const { save, isWaiting, dismiss } = useSaving()
  const [own, setOwn] = useState<ReadonlyMap<string, MarkChange>>(new Map())
  const [conflicts, setConflicts] = useState<readonly Conflict[]>([])
  const [told, setTold] = useState('')
  const undoStack = useRef<Undo[]>([])
  const versions = useRef(new Map<string, number>())
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set())

  const slot = useCallback(
    (studentId: string) => `mark ${studentId} ${input.date} ${input.session}`,
    [input.date, input.session],
  )

  // Marks others changed stand out for a moment; own typing that is on its way stays on top.
  const before = useRef(initial)
  useEffect(() => {
    const was = new Map(before.current.rows.map((r) => [r.studentId, r.mark?.version ?? 0]))
    before.current = server
    setTouched(
      new Set(
        server.rows
          .filter(
            (r) => (r.mark?.version ?? 0) > (versions.current.get(r.studentId) ?? was.get(r.studentId) ?? 0),
          )
          .map((r) => r.studentId),
      ),
    )
    for (const row of server.rows) versions.current.set(row.studentId, row.mark?.version ?? 0)
    setOwn((marks) => new Map([...marks].filter(([studentId]) => isWaiting(slot(studentId)))))
  }, [server, isWaiting, slot])

  const drawn = useMemo(() => server.rows.map((row) => ({ ...row, now: changeOf(row.mark) })), [server.rows])
  const rows = useMemo(
    () =>
      drawn.map((row) => {
        const typed = own.get(row.studentId)
        return typed ? { ...row, now: typed } : row
      }),
    [drawn, own],
  )

  const put = useCallback(
    (row: RegisterRow, change: MarkChange, label: string) => {
      setOwn((marks) => new Map(marks).set(row.studentId, change))
      const edit: CommandInput<'attendance.setMark'> = {
        ...input,
        studentId: row.studentId,
        ...change,
        expectedVersion: versions.current.get(row.studentId) ?? 0,
      }
      save('attendance.setMark', edit, { slot: slot(row.studentId), label })
    },
    [input, save, slot],
  )

  useSaved('attendance.setMark', (edit, outcome) => {
    if (edit.date !== input.date || edit.session !== input.session || edit.homeroomId !== input.homeroomId)
      return
    if ('value' in outcome) {
      versions.current.set(edit.studentId, outcome.value.version)
      return
    }
    const { refused } = outcome
    const mine = { codeId: edit.codeId, minutesLate: edit.minutesLate, note: edit.note ?? null }
    if (refused.conflict)
      setConflicts((all) => [
        ...all,
        { studentId: edit.studentId, theirs: refused.current as Mark | null, mine, editId: refused.edit.id },
      ])
    else setTold(`Not saved: ${refused.message}`)
    setOwn((marks) => new Map([...marks].filter(([id]) => id !== edit.studentId)))
    void refresh()
  })
  useSaved('attendance.markRest', (edit, outcome) => {
    if (edit.date !== input.date || edit.session !== input.session || edit.homeroomId !== input.homeroomId)
      return
    if ('value' in outcome) {
      for (const m of outcome.value) versions.current.set(m.studentId, m.version)
      undoStack.current.push({ kind: 'rest', marks: outcome.value })
      setTold(`${outcome.value.length} marked present. Ctrl Z takes it back.`)
    } else setTold(`Not saved: ${outcome.refused.message}`)
    void refresh()
  })

  const nameOfCode = (codeId: string | null) => server.codes.find((c) => c.id === codeId)?.code ?? 'no mark'

  function mark(studentId: string, change: Partial<MarkChange>) {
    const row = rows.find((r) => r.studentId === studentId)
    if (!row) return
    const next = { ...row.now, ...change }
    if (
      next.codeId === row.now.codeId &&
      next.note === row.now.note &&
      next.minutesLate === row.now.minutesLate
    )
      return
    undoStack.current.push({ kind: 'mark', studentId, before: row.now })
    put(row, next, `${row.name}, ${nameOfCode(next.codeId)}${next.note ? `, ${next.note}` : ''}`)
    setTold('')
  }

  function markRest() {
    const present = server.codes.find((c) => c.meaning === 'present')
    const open = rows.filter((r) => r.now.codeId === null && !r.expected)
    if (!present || open.length === 0) return setTold('Everyone on roll has a mark already.')
    setOwn(
      (marks) =>
        new Map([...marks, ...open.map((r) => [r.studentId, { ...r.now, codeId: present.id }] as const)]),
    )
    save(
      'attendance.markRest',
      { ...input, codeId: present.id },
      {
        slot: `rest ${input.homeroomId} ${input.date} ${input.session}`,
        label: `The rest present, ${open.length} students`,
      },
    )
  }

  function undo(): string | undefined {
    const last = undoStack.current.pop()
    if (!last) {
      setTold('Nothing to undo.')
      return undefined
    }
    if (last.kind === 'rest') {
      save(
        'attendance.clearMarks',
        { ...input, marks: [...last.marks] },
        { slot: `clear ${crypto.randomUUID()}`, label: 'Take back the rest' },
      )
      setOwn((marks) => new Map([...marks, ...last.marks.map((m) => [m.studentId, emptyChange] as const)]))
      setTold(`${last.marks.length} marks taken back.`)
      return undefined
    }
    const row = rows.find((r) => r.studentId === last.studentId)
    if (row) {
      put(row, last.before, `${row.name}, undone`)
      setTold(`${row.name} is ${nameOfCode(last.before.codeId)} again.`)
    }
    return last.studentId
  }
  useSaved('attendance.clearMarks', (_edit, outcome) => {
    if ('refused' in outcome) setTold(`Not saved: ${outcome.refused.message}`)
    setOwn(new Map())
    void refresh()
  })

  function resolve(conflict: Conflict, keep: 'mine' | 'theirs') {
    setConflicts((all) => all.filter((c) => c !== conflict))
    dismiss(conflict.editId)
    const row = rows.find((r) => r.studentId === conflict.studentId)
    if (!row || keep === 'theirs') return
    versions.current.set(conflict.studentId, conflict.theirs?.version ?? 0)
    put(row, conflict.mine, `${row.name}, ${nameOfCode(conflict.mine.codeId)}`)
  }

  return { register: server, rows, mark, markRest, undo, conflicts, resolve, told, setTold, touched }
}

export type OpenRow = ReturnType<typeof useRegister>['rows'][number]
