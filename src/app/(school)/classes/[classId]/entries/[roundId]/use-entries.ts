'use client'
import { useEffect, useMemo, useRef, useState } from 'react'
import { noEntry, type WrittenEntry } from '@/core/reports/entries'
import type { QueryOutput } from '@/server/registry'
import { useBeforeLeaving, useEnded } from '@/screen/saving'
import { useDraft } from '@/screen/use-draft'
import { useLive } from '@/screen/use-live'
import { useRecorded, type Editing } from '@/screen/use-recorded'

export type Entries = QueryOutput<'reports.classEntries'>
type Drafts = Readonly<Record<string, WrittenEntry>>

const typingPause = 500

const written = ({ effort, comment }: WrittenEntry): WrittenEntry => ({ effort, comment })
const without = (drafts: Drafts, studentId: string): Drafts =>
  Object.fromEntries(Object.entries(drafts).filter(([id]) => id !== studentId))

function editingOf(
  roundId: string,
  classId: string,
  className: string,
  studentIds: readonly string[],
): Editing<'reports.setEntries', WrittenEntry> {
  const record = `entry ${roundId} ${classId} {studentId}` as const
  return {
    command: 'reports.setEntries',
    record,
    table: 'report_entry',
    scope: `entries ${roundId} ${classId}`,
    place: { name: `${className}, report entries`, href: `/classes/${classId}/entries/${roundId}` },
    input: { roundId, classId },
    empty: noEntry,
    bulk: {
      'reports.fillBlank': (input, now) => {
        const { field, value } = input
        return studentIds
          .map((id) => record.replace('{studentId}', id))
          .filter((r) => !now(r)[field]?.trim())
          .map((r) => [r, { ...now(r), [field]: value } as WrittenEntry] as const)
      },
    },
  }
}

/** A class's entries as they are being written; a comment is saved when typing pauses for half a second. */
export function useEntries(input: { roundId: string; classId: string }, initial: Entries) {
  const { roundId, classId } = input
  const [server, refresh] = useLive('reports.classEntries', input, initial)
  const limit = server.round.commentLimit
  const members = server.rows.map((r) => r.studentId).join()
  const about = useMemo(
    () => editingOf(roundId, classId, server.class.name, members === '' ? [] : members.split(',')),
    [roundId, classId, server.class.name, members],
  )
  const stored = useMemo(
    () =>
      new Map(
        server.rows.map((r) => [
          about.record.replace('{studentId}', r.studentId),
          { value: written(r), version: r.version },
        ]),
      ),
    [server.rows, about],
  )
  const { recorded, valueAt, rejectedEdits, resolve } = useRecorded(about, stored, refresh)
  useEnded((ended) => {
    if (ended.kind === 'done' && ended.edit.scope === about.scope) void refresh()
  })

  // What is typed and not yet sent: in a pause, or too long for the card. Too long ones are kept for another time.
  const [drafts, setDrafts] = useState<Drafts>({})
  const [kept, keep] = useDraft<Drafts>(`entries.${roundId}.${classId}`)
  useEffect(() => {
    if (!kept) return
    for (const studentId of Object.keys(kept)) recorded?.begin({ studentId })
    setDrafts((now) => ({ ...kept, ...now }))
  }, [kept, recorded])
  const latest = useRef(drafts)
  const timers = useRef(new Map<string, ReturnType<typeof setTimeout>>())
  const change = (next: Drafts) => {
    latest.current = next
    setDrafts(next)
    const tooLong = Object.entries(next).filter(([, d]) => d.comment.length > limit)
    keep(tooLong.length > 0 ? Object.fromEntries(tooLong) : undefined)
  }

  const rows = server.rows.map((row) => ({
    ...row,
    ...(drafts[row.studentId] ?? valueAt(about.record.replace('{studentId}', row.studentId))),
  }))
  const nameOf = (studentId: string) => server.rows.find((r) => r.studentId === studentId)?.name ?? ''

  function send(studentId: string) {
    clearTimeout(timers.current.get(studentId))
    timers.current.delete(studentId)
    const draft = latest.current[studentId]
    if (!draft || draft.comment.length > limit) return
    change(without(latest.current, studentId))
    const words = [draft.effort, draft.comment].filter(Boolean).join(', ') || 'empty'
    recorded?.save(
      [{ key: { studentId }, value: draft }],
      `${nameOf(studentId)}: ${words.length > 80 ? `${words.slice(0, 80)}…` : words}`,
    )
  }
  /** Takes what is written; it is sent when typing pauses, or at once. */
  function write(studentId: string, entry: WrittenEntry, { atOnce }: { atOnce: boolean }) {
    recorded?.begin({ studentId })
    change({ ...latest.current, [studentId]: entry })
    clearTimeout(timers.current.get(studentId))
    if (atOnce) return send(studentId)
    timers.current.set(
      studentId,
      setTimeout(() => send(studentId), typingPause),
    )
  }
  const flush = () => Object.keys(latest.current).forEach(send)
  useBeforeLeaving(flush)

  return {
    server,
    rows,
    recorded,
    scope: about.scope,
    write,
    leave: send,
    flush,
    rejectedEdits,
    resolve,
    refresh,
    unsent: Object.keys(drafts).length > 0,
  }
}

export type OpenEntries = ReturnType<typeof useEntries>
