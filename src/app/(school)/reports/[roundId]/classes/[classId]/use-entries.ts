'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { Effort } from '@/core/reports/entries'
import type { QueryOutput } from '@/server/registry'
import { useSaved, useSaving } from '@/screen/saving'
import { useLive } from '@/screen/use-live'
import { cellSource, useTyped } from '@/screen/use-typed'

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
const same = (a: Written, b: Written) => a.effort === b.effort && a.comment === b.comment

const entriesOf = (roundId: string, classId: string) =>
  cellSource('reports.setEntries', {
    isHere: (edit) => edit.roundId === roundId && edit.classId === classId,
    recordOf: (key) => key.studentId,
  })

/** A class's entries as they are being written; a comment is saved when typing pauses for half a second. */
export function useEntries(input: { roundId: string; classId: string }, initial: Entries) {
  const { roundId, classId } = input
  const [server, refresh] = useLive('reports.classEntries', input, initial)
  const { save } = useSaving()
  const [problem, setProblem] = useState<string>()
  // What is typed and not yet on its way: in a pause, or too long for the card.
  const [drafts, setDrafts] = useState<ReadonlyMap<string, Written>>(new Map())
  const timers = useRef(new Map<string, { timer: ReturnType<typeof setTimeout>; send: () => void }>())
  const limit = server.round.commentLimit

  const stored = useMemo(() => new Map(server.rows.map((r) => [r.studentId, r.version])), [server.rows])
  const sources = useMemo(() => [entriesOf(roundId, classId)], [roundId, classId])
  const typed = useTyped(stored, sources, {
    refresh,
    // What was not taken stays on the screen, so that it can be mended or copied.
    whenRefused: (message, mine) => {
      setProblem(message)
      setDrafts((all) => new Map([...mine, ...all]))
    },
  })
  useSaved('reports.setEntries', (edit, outcome) => {
    if ('value' in outcome && edit.roundId === roundId && edit.classId === classId) void refresh()
  })

  // Leaving the page sends what a pause has not yet sent.
  useEffect(() => {
    const waiting = timers.current
    const leave = () => flushAll(waiting)
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      leave()
    }
  }, [])

  const rows = server.rows.map((row) => ({
    ...row,
    ...(drafts.get(row.studentId) ??
      typed.values.get(row.studentId) ?? { effort: row.effort, comment: row.comment }),
  }))

  function put(studentId: string, name: string, written: Written, base = typed.version(studentId)) {
    setDrafts((all) => new Map([...all].filter(([id]) => id !== studentId)))
    save(
      'reports.setEntries',
      {
        ...input,
        cells: [
          { key: { studentId }, value: { effort: written.effort, comment: written.comment }, seen: base },
        ],
      },
      { slot: `entry ${roundId} ${classId} ${studentId}`, label: `${name}, entry` },
    )
  }
  function write(studentId: string, name: string, written: Written, { atOnce }: { atOnce: boolean }) {
    const pending = timers.current.get(studentId)
    const shown = rows.find((r) => r.studentId === studentId)
    // Leaving the field with everything on its way already sends nothing again.
    if (atOnce && !pending && shown && same(shown, written)) return
    setDrafts((all) => new Map(all).set(studentId, written))
    setProblem(undefined)
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
  const conflicts = typed.conflicts.flatMap(({ editId, mine, standing }) =>
    mine.map(([studentId, written]): EntryConflict => {
      const saved = standing.find((s) => (s.key as { studentId: string }).studentId === studentId)
      const value = (saved?.value as Written | null | undefined) ?? { effort: null, comment: '' }
      return {
        studentId,
        editId,
        mine: written,
        theirs: { ...value, version: saved?.version ?? 0, changedBy: saved?.by ?? '' },
      }
    }),
  )
  function resolve(conflict: EntryConflict, keep: 'mine' | 'theirs') {
    typed.dismiss(conflict.editId)
    if (keep === 'mine') put(conflict.studentId, '', conflict.mine, conflict.theirs.version)
  }
  return {
    server,
    rows,
    write,
    flush: () => flushAll(timers.current),
    conflicts,
    resolve,
    problem,
    setProblem,
    refresh,
    unsaved: drafts.size > 0,
  }
}

function flushAll(waiting: ReadonlyMap<string, { timer: ReturnType<typeof setTimeout>; send: () => void }>) {
  for (const { timer, send } of [...waiting.values()]) {
    clearTimeout(timer)
    send()
  }
}
