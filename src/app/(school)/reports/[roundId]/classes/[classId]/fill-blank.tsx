'use client'
import { useState } from 'react'
import { efforts } from '@/core/reports/entries'
import { Button } from '@/ui/button'
import { Select, TextInput } from '@/ui/field'
import { tellServer } from '@/screen/server'

interface Props {
  readonly input: { roundId: string; classId: string }
  readonly rows: readonly { readonly effort: string | null; readonly comment: string }[]
  readonly limit: number
  readonly onBefore: () => void
  readonly onDone: () => void
}

/** Gives one effort or comment to everyone who has none; what is there stays, and it can be taken back. */
export function FillBlank({ input, rows, limit, onBefore, onDone }: Props) {
  const [effort, setEffort] = useState<string>('good')
  const [comment, setComment] = useState('')
  const [told, setTold] = useState('')
  const [run, setRun] = useState<string>()
  const noEffort = rows.filter((r) => !r.effort).length
  const noComment = rows.filter((r) => !r.comment.trim()).length
  async function fill(field: 'effort' | 'comment', value: string) {
    onBefore()
    const result = await tellServer('reports.fillBlank', { ...input, field, value })
    if (result.ok) {
      setTold(`${result.value.length} filled in.`)
      setRun(result.value.length > 0 ? result.run : undefined)
      if (field === 'comment') setComment('')
    } else setTold(result.failure.message)
    onDone()
  }
  async function takeBack() {
    if (!run) return
    const result = await tellServer('history.undo', { run })
    setTold(result.ok ? `${result.value.restored.length} taken back.` : result.failure.message)
    setRun(undefined)
    onDone()
  }
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-5 gap-y-2 border-y border-rule py-2 text-[13px] no-print">
      <span className="flex items-center gap-2">
        <Select
          aria-label="Effort for all who have none"
          className="w-auto!"
          value={effort}
          onChange={(e) => setEffort(e.target.value)}
        >
          {efforts.map((x) => (
            <option key={x}>{x}</option>
          ))}
        </Select>
        <Button kind="plain" disabled={noEffort === 0} onClick={() => void fill('effort', effort)}>
          for the {noEffort} without effort
        </Button>
      </span>
      <span className="flex min-w-72 flex-1 items-center gap-2">
        <TextInput
          aria-label="Comment for all who have none"
          placeholder="One comment for all who have none"
          maxLength={limit}
          value={comment}
          onChange={(e) => setComment(e.target.value)}
        />
        <Button
          kind="plain"
          className="whitespace-nowrap"
          disabled={noComment === 0 || !comment.trim()}
          onClick={() => void fill('comment', comment)}
        >
          for the {noComment} without comment
        </Button>
      </span>
      <span role="status" className="text-muted">
        {told}{' '}
        {run && (
          <button type="button" className="link" onClick={() => void takeBack()}>
            Undo
          </button>
        )}
      </span>
    </div>
  )
}
