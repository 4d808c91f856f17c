'use client'
import { useState } from 'react'
import { efforts } from '@/core/reports/entries'
import { Button } from '@/ui/button'
import { Select, TextInput } from '@/ui/field'
import { useEnded } from '@/screen/saving'
import type { OpenEntries } from './use-entries'

const students = (n: number) => (n === 1 ? '1 student' : `${n} students`)

/** Gives one effort or comment to everyone who has none; what has been entered stays, and it can be undone. */
export function FillBlank({
  entries: e,
  input,
}: {
  entries: OpenEntries
  input: { roundId: string; classId: string }
}) {
  const [effort, setEffort] = useState<string>('good')
  const [comment, setComment] = useState('')
  const [filled, setFilled] = useState<{ words: string; undo: boolean }>()
  const noEffort = e.rows.filter((r) => !r.effort).length
  const noComment = e.rows.filter((r) => !r.comment.trim()).length
  useEnded((ended) => {
    if (ended.kind !== 'done' || ended.edit.scope !== e.scope) return
    const n = ended.versions.size
    if (ended.edit.command === 'reports.fillBlank')
      setFilled({ words: `Filled in for ${students(n)}.`, undo: n > 0 })
    else setFilled((now) => (now?.undo ? undefined : now))
  })
  function fill(field: 'effort' | 'comment', value: string, n: number) {
    e.flush()
    const what = field === 'effort' ? `Effort ${value}` : 'One comment'
    e.recorded?.act('reports.fillBlank', { ...input, field, value }, `${what} for ${students(n)} without one`)
    if (field === 'comment') setComment('')
  }
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-5 gap-y-2 border-y border-rule py-2 text-[13px] no-print">
      <span className="flex items-center gap-2">
        <Select
          aria-label="Effort grade for students without one"
          className="w-auto!"
          value={effort}
          onChange={(event) => setEffort(event.target.value)}
        >
          {efforts.map((x) => (
            <option key={x}>{x}</option>
          ))}
        </Select>
        <Button kind="plain" disabled={noEffort === 0} onClick={() => fill('effort', effort, noEffort)}>
          Give to the {noEffort} without an effort grade
        </Button>
      </span>
      <span className="flex min-w-72 flex-1 items-center gap-2">
        <TextInput
          aria-label="Comment for students without one"
          placeholder="One comment for all without one"
          maxLength={e.server.round.commentLimit}
          value={comment}
          onChange={(event) => setComment(event.target.value)}
        />
        <Button
          kind="plain"
          className="whitespace-nowrap"
          disabled={noComment === 0 || !comment.trim()}
          onClick={() => fill('comment', comment.trim(), noComment)}
        >
          Give to the {noComment} without a comment
        </Button>
      </span>
      <span role="status" className="text-muted">
        {filled?.words}{' '}
        {filled?.undo && (
          <button
            type="button"
            className="link"
            onClick={() => {
              e.recorded?.undo()
              setFilled({ words: 'Undone.', undo: false })
            }}
          >
            Undo
          </button>
        )}
      </span>
    </div>
  )
}
