'use client'
import Link from '@/screen/link'
import { useState } from 'react'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, Problem, TextArea } from '@/ui/field'
import { tellServer } from '@/screen/server'
import type { Entries } from './use-entries'

interface Props {
  readonly input: { roundId: string; classId: string }
  readonly server: Entries
  readonly blanks: readonly { readonly name: string; readonly blanks: readonly string[] }[]
  readonly onDone: () => void
}

/** What the head does with entries handed in: check them, or send them back with a remark; then the next. */
export function CheckBar({ input, server, blanks, onDone }: Props) {
  const [sending, setSending] = useState(false)
  const [remark, setRemark] = useState('')
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function act(call: () => ReturnType<typeof tellServer>) {
    setBusy(true)
    const result = await call()
    setBusy(false)
    if (!result.ok) return setProblem(result.failure.message)
    setProblem(undefined)
    setSending(false)
    onDone()
  }
  const { state, waiting } = server
  const next = waiting[0]
  return (
    <div className="mb-3 grid gap-2 border-y border-rule py-3 no-print">
      {problem && <Problem>{problem}</Problem>}
      {blanks.length > 0 && (
        <p className="hint">
          Blank: {blanks.map((b) => `${spokenName(b.name)} (${b.blanks.join(', ')})`).join('; ')}.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        {state === 'handed in' && (
          <Button
            busy={busy}
            onClick={() => void act(() => tellServer('reports.check', { ...input, seen: server.version }))}
          >
            Checked
          </Button>
        )}
        {['handed in', 'checked', 'released'].includes(state) && (
          <Button kind="plain" onClick={() => setSending(true)}>
            Send back with a remark
          </Button>
        )}
        {['writing', 'sent back'].includes(state) && (
          <span className="text-muted">Still with the teacher; you can read along.</span>
        )}
        {next && (
          <Link className="link ml-auto" href={`/reports/${input.roundId}/classes/${next.id}`}>
            Next handed in: {next.name}
          </Link>
        )}
        {!next && state !== 'handed in' && (
          <span className="ml-auto text-muted">Nothing else is waiting to be checked.</span>
        )}
      </div>
      {sending && (
        <Dialog
          title={`Send back ${server.class.name}`}
          description="The teacher sees the remark and can write again; marks follow the gradebook again."
          onClose={() => setSending(false)}
        >
          <form
            onSubmit={(e) => {
              e.preventDefault()
              void act(() => tellServer('reports.sendBack', { ...input, seen: server.version, remark }))
            }}
            className="grid gap-4"
          >
            <Field label="Remark" problem={problem}>
              {(f) => (
                <TextArea
                  {...f}
                  rows={4}
                  autoFocus
                  maxLength={1000}
                  value={remark}
                  onChange={(e) => setRemark(e.target.value)}
                />
              )}
            </Field>
            <p className="flex gap-3">
              <Button type="submit" busy={busy}>
                Send back
              </Button>
              <Button kind="plain" onClick={() => setSending(false)}>
                Give up
              </Button>
            </p>
          </form>
        </Dialog>
      )}
    </div>
  )
}
