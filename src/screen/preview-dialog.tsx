'use client'
import { useEffect, useRef, useState } from 'react'
import { workWords } from '@/core/work'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import type { Preview } from '@/server/platform/preview'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { Progress } from '@/ui/progress'
import { useLargeAct } from './large-act'
import { newKey, previewOnServer, sendCommand, type CallResult } from './server'
import type { OwnWork } from './work'

const done: Readonly<Record<Preview['counts'][number]['operation'], string>> = {
  insert: 'added',
  update: 'changed',
  delete: 'removed',
}

/** "Class: 12 added", in the order in which it happens. */
function Counts({ counts }: { counts: Preview['counts'] }) {
  return (
    <ul className="grid gap-1" aria-label="What will change">
      {counts.map(({ kind, operation, rows }) => (
        <li key={kind + operation}>
          {kind}: <strong>{rows.toLocaleString('en-GB')}</strong> {done[operation]}
        </li>
      ))}
    </ul>
  )
}

/** Each change with its record, the first of them where there are many. */
function Changes({ changes, total }: { changes: Preview['changes']; total: number }) {
  return (
    <details>
      <summary className="link w-fit cursor-pointer">Show each change</summary>
      <ul
        className="mt-2 grid max-h-60 gap-1 overflow-auto text-[13px]"
        tabIndex={0}
        aria-label="Each change"
      >
        {changes.map((c, i) => (
          <li key={i}>
            {c.kind} {c.which}
            {c.student && `, ${c.student}`}: {done[c.operation]}
          </li>
        ))}
      </ul>
      {total > changes.length && (
        <p className="text-muted">and {(total - changes.length).toLocaleString('en-GB')} more</p>
      )}
    </details>
  )
}

/** How far a large act, or its preview, is. */
function HowFar({ work }: { work: OwnWork[number] | undefined }) {
  return (
    <p className="flex items-center gap-3 text-[13px] text-muted">
      <Progress label="Progress" done={work?.total ? work.done : undefined} total={work?.total || 1} />
      {work ? workWords(work) : 'queued'}
    </p>
  )
}

/**
 * Shows exactly what an act would change, then does it. If the data changes in between, nothing is done and the new
 * preview is shown.
 */
export function PreviewDialog<N extends CommandName>({
  command,
  input,
  title,
  description,
  unchanged,
  act,
  onClose,
  onDone,
}: {
  command: N
  /** The same object as long as the act is the same. */
  input: CommandInput<N>
  title: string
  description?: string
  /** Said where the act would change nothing: why. */
  unchanged: string
  act: string
  onClose: () => void
  onDone: (value: CommandOutput<N>, run: string | undefined) => void
}) {
  const [shown, setShown] = useState<Preview>()
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const [isLarge, setLarge] = useState(false)
  const [key, setKey] = useState(newKey)
  const large = useLargeAct()
  const look = useRef<() => Promise<CallResult<Preview>>>(undefined)
  useEffect(() => {
    look.current = async () => {
      const result = await previewOnServer(command, input)
      if (result.ok || result.failure.kind !== 'large') return result
      setLarge(true)
      return large.preview(command, input)
    }
  })
  useEffect(() => {
    let gone = false
    void look.current?.().then((result) => {
      if (gone) return
      if (result.ok) setShown(result.value)
      else setProblem(result.failure.message)
    })
    return () => {
      gone = true
    }
  }, [command, input])
  async function confirm() {
    if (!shown) return
    setBusy(true)
    setProblem(undefined)
    const { fingerprint } = shown
    const result = isLarge
      ? await large.act(command, input, { key, fingerprint })
      : await sendCommand(command, input, key, fingerprint)
    setBusy(false)
    if (result.ok) return onDone(result.value, result.run)
    setProblem(result.failure.message)
    // While nobody knows whether it has arrived, it is sent again as the same act.
    if (result.failure.kind !== 'unavailable') setKey(newKey())
    if (result.failure.kind === 'preview changed') setShown(result.failure.preview as Preview)
  }
  const total = shown?.counts.reduce((sum, { rows }) => sum + rows, 0) ?? 0
  function close() {
    if (busy) return
    // Nobody would see what it comes to.
    if (large.isRunning) void large.cancel()
    onClose()
  }
  return (
    <Dialog title={title} description={description} onClose={close}>
      <div className="grid gap-4">
        {problem && <Problem>{problem}</Problem>}
        <div role="status">
          {shown ? (
            total > 0 ? (
              <Counts counts={shown.counts} />
            ) : (
              <p>{unchanged}</p>
            )
          ) : (
            !problem && <p className="text-muted">Working out what will change</p>
          )}
        </div>
        {shown && total > 0 && <Changes changes={shown.changes} total={total} />}
        {large.isRunning && <HowFar work={large.work} />}
        <p className="flex flex-wrap gap-3">
          <Button busy={busy} disabled={!shown || total === 0} onClick={() => void confirm()}>
            {act}
          </Button>
          {busy && large.isRunning ? (
            <>
              <Button kind="plain" onClick={() => void large.cancel()}>
                Stop
              </Button>
              <Button kind="plain" onClick={onClose}>
                Continue in the background
              </Button>
            </>
          ) : (
            <Button kind="plain" disabled={busy} onClick={close}>
              Cancel
            </Button>
          )}
        </p>
      </div>
    </Dialog>
  )
}
