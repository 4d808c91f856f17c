'use client'
import { useEffect, useState } from 'react'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import type { Preview } from '@/server/platform/preview'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { newKey, previewOnServer, tellServer } from './server'

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
          {kind}: <strong>{rows}</strong> {done[operation]}
        </li>
      ))}
    </ul>
  )
}

/** Each change with its record, the first of them where there are many. */
function Changes({ changes }: { changes: Preview['changes'] }) {
  const most = 200
  return (
    <details>
      <summary className="link w-fit cursor-pointer">Show each change</summary>
      <ul
        className="mt-2 grid max-h-60 gap-1 overflow-auto text-[13px]"
        tabIndex={0}
        aria-label="Each change"
      >
        {changes.slice(0, most).map((c, i) => (
          <li key={i}>
            {c.kind} {c.which}
            {c.student && `, ${c.student}`}: {done[c.operation]}
          </li>
        ))}
      </ul>
      {changes.length > most && <p className="text-muted">and {changes.length - most} more</p>}
    </details>
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
  act,
  onClose,
  onDone,
}: {
  command: N
  /** The same object as long as the act is the same. */
  input: CommandInput<N>
  title: string
  description?: string
  act: string
  onClose: () => void
  onDone: (value: CommandOutput<N>, run: string | undefined) => void
}) {
  const [shown, setShown] = useState<Preview>()
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const [key, setKey] = useState(newKey)
  useEffect(() => {
    let gone = false
    void previewOnServer(command, input).then((result) => {
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
    const result = await tellServer(command, input, key, shown.fingerprint)
    setBusy(false)
    if (result.ok) return onDone(result.value, result.run)
    setProblem(result.failure.message)
    if (result.failure.kind !== 'preview changed') return
    setShown(result.failure.preview as Preview)
    setKey(newKey())
  }
  return (
    <Dialog title={title} description={description} onClose={onClose}>
      <div className="grid gap-4">
        {problem && <Problem>{problem}</Problem>}
        <div role="status">
          {shown ? (
            shown.changes.length > 0 ? (
              <Counts counts={shown.counts} />
            ) : (
              <p>Nothing would change.</p>
            )
          ) : (
            !problem && <p className="text-muted">Working out what will change</p>
          )}
        </div>
        {shown && shown.changes.length > 0 && <Changes changes={shown.changes} />}
        <p className="flex gap-3">
          <Button busy={busy} disabled={!shown || shown.changes.length === 0} onClick={() => void confirm()}>
            {act}
          </Button>
          <Button kind="plain" onClick={onClose}>
            Cancel
          </Button>
        </p>
      </div>
    </Dialog>
  )
}
