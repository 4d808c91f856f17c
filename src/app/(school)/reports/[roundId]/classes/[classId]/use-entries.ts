'use client'
import { useEffect, useRef, useState } from 'react'
import type { Effort } from '@/core/reports/entries'
import type { QueryOutput } from '@/server/registry'
import { useSaved, useSaving } from '../../../../../shared/saving'
import { useLive } from '../../../../../shared/use-live'

export type Entries = QueryOutput<'reports.classEntries'>

export interface Written {
  readonly effort: Effort | null
  readonly comment: string
}

export interface EntryConflict {
  readonly studentId: string
  readonly editId: string
  readonly mine: Written
  readonly theirs: Written & { readonly version: number; readonly changedBy: string }
}

const typingPause = 500

/** A class's entries as they are being written; a comment is saved when typing pauses for half a second. */
export function useEntries(input: { roundId: string; classId: string }, initial: Entries) {
  const [server, refresh] = useLive('reports.classEntries', input, initial)
  const { save, isWaiting, dismiss } = useSaving()
  const [own, setOwn] = useState<ReadonlyMap<string, Written>>(new Map())
  const [conflicts, setConflicts] = useState<readonly EntryConflict[]>([])
  const [problem, setProblem] = useState<string>()
  const versions = useRef(new Map<string, number>())
  const timers = useRef(new Map<string, { timer: ReturnType<typeof setTimeout>; send: () => void }>())
  const limit = server.round.commentLimit
  const slot = (studentId: string) => `entry ${input.roundId} ${input.classId} ${studentId}`

  useEffect(() => {
    for (const row of server.rows) versions.current.set(row.studentId, row.version)
    setOwn(
      (all) =>
        new Map(
          [...all].filter(
            ([id, w]) =>
              isWaiting(`entry ${input.roundId} ${input.classId} ${id}`) ||
              timers.current.has(id) ||
              w.comment.length > limit,
          ),
        ),
    )
  }, [server, isWaiting, input.roundId, input.classId, limit])
  // Leaving the page sends what a pause has not yet sent.
  useEffect(() => {
    const waiting = timers.current
    const flush = () => {
      for (const { timer, send } of [...waiting.values()]) {
        clearTimeout(timer)
        send()
      }
    }
    window.addEventListener('pagehide', flush)
    return () => {
      window.removeEventListener('pagehide', flush)
      flush()
    }
  }, [])

  useSaved('reports.saveEntry', (edit, outcome) => {
    if (edit.roundId !== input.roundId || edit.classId !== input.classId) return
    if ('value' in outcome) {
      versions.current.set(edit.studentId, outcome.value.version)
      return void refresh()
    }
    const { refused } = outcome
    if (refused.conflict)
      setConflicts((all) => [
        ...all,
        {
          studentId: edit.studentId,
          editId: refused.edit.id,
          mine: { effort: edit.effort, comment: edit.comment },
          theirs: refused.current as EntryConflict['theirs'],
        },
      ])
    else setProblem(refused.message)
    setOwn((all) => new Map([...all].filter(([id]) => id !== edit.studentId)))
    void refresh()
  })

  function put(studentId: string, name: string, written: Written, base?: number) {
    save(
      'reports.saveEntry',
      {
        ...input,
        studentId,
        effort: written.effort,
        comment: written.comment,
        expectedVersion: base ?? versions.current.get(studentId) ?? 0,
      },
      { slot: slot(studentId), label: `${name}, entry` },
    )
  }
  function write(studentId: string, name: string, written: Written, { atOnce }: { atOnce: boolean }) {
    const stored = server.rows.find((r) => r.studentId === studentId)
    if (
      atOnce &&
      !own.has(studentId) &&
      stored?.comment === written.comment &&
      stored.effort === written.effort
    )
      return
    setOwn((all) => new Map(all).set(studentId, written))
    setProblem(undefined)
    const pending = timers.current.get(studentId)
    // Leaving the field with everything on its way already sends nothing again.
    if (atOnce && !pending && own.get(studentId) === written) return
    if (pending) clearTimeout(pending.timer)
    timers.current.delete(studentId)
    if (written.comment.length > limit) return
    const send = () => {
      timers.current.delete(studentId)
      put(studentId, name, written)
    }
    if (atOnce) return send()
    timers.current.set(studentId, { timer: setTimeout(send, typingPause), send })
  }
  function resolve(conflict: EntryConflict, keep: 'mine' | 'theirs') {
    dismiss(conflict.editId)
    setConflicts((all) => all.filter((c) => c !== conflict))
    if (keep === 'theirs') return
    setOwn((all) => new Map(all).set(conflict.studentId, conflict.mine))
    put(conflict.studentId, '', conflict.mine, conflict.theirs.version)
  }
  const rows = server.rows.map((row) => ({
    ...row,
    ...(own.get(row.studentId) ?? { effort: row.effort, comment: row.comment }),
  }))
  const flush = () => {
    for (const { timer, send } of [...timers.current.values()]) {
      clearTimeout(timer)
      send()
    }
  }
  return {
    server,
    rows,
    write,
    flush,
    conflicts,
    resolve,
    problem,
    setProblem,
    refresh,
    unsaved: own.size > 0,
  }
}
