'use client'
import { useState } from 'react'
import { spokenName } from '@/core/people/names'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { newKey, sendCommand } from '@/screen/server'
import type { Entries } from './use-entries'

const SendBack = later(() => import('./send-back').then((m) => m.SendBack))

interface Input {
  readonly roundId: string
  readonly classId: string
}

interface Props {
  readonly input: Input
  readonly server: Entries
  readonly blanks: readonly { readonly name: string; readonly blanks: readonly string[] }[]
  readonly onDone: () => void
}

/** What the head does with entries handed in: mark them as checked, or send them back with a remark; then the next. */
export function CheckBar({ input, server, blanks, onDone }: Props) {
  const [sending, setSending] = useState<number>()
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const { state, waiting, version } = server
  const next = waiting[0]
  /** Checks what is on the screen: with another version the server refuses. */
  async function check() {
    setBusy(true)
    const result = await sendCommand('reports.check', { ...input, expectedVersion: version }, newKey())
    setBusy(false)
    setProblem(result.ok ? undefined : result.failure.message)
    onDone()
  }
  return (
    <div className="mb-3 grid gap-2 border-y border-rule py-3 no-print">
      {problem && <Problem>{problem}</Problem>}
      {blanks.length > 0 && (
        <p className="hint">
          Not entered: {blanks.map((b) => `${spokenName(b.name)} (${b.blanks.join(', ')})`).join('; ')}.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        {state === 'handed in' && (
          <Button busy={busy} onClick={() => void check()}>
            Mark as checked
          </Button>
        )}
        {['handed in', 'checked', 'released'].includes(state) && (
          <Button kind="plain" onClick={() => setSending(version)}>
            Send back with a remark
          </Button>
        )}
        {['writing', 'sent back'].includes(state) && (
          <span className="text-muted">Not handed in yet; view only.</span>
        )}
        {next && (
          <Link className="link ml-auto" href={`/classes/${next.id}/entries/${input.roundId}`}>
            Next handed in: {next.name}
          </Link>
        )}
        {!next && state !== 'handed in' && (
          <span className="ml-auto text-muted">No other entries are waiting to be checked.</span>
        )}
      </div>
      {sending !== undefined && (
        <SendBack
          input={input}
          className={server.class.name}
          expectedVersion={sending}
          onClose={(sent) => {
            setSending(undefined)
            if (sent) onDone()
          }}
        />
      )}
    </div>
  )
}
