'use client'
import { useState } from 'react'
import { isAlive, workWords } from '@/core/work'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { Progress } from '@/ui/progress'
import { sendCommand, type CallResult } from './server'
import { useWork, type OwnWork } from './work'

type Act = 'work.cancel' | 'work.retry' | 'work.dismiss'

function WorkItem({ work }: { work: OwnWork[number] }) {
  const { refresh } = useWork()
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string>()
  async function act(command: Act) {
    setBusy(true)
    const result = await sendCommand(command, { jobId: work.id })
    setProblem(result.ok ? undefined : result.failure.message)
    await refresh()
    setBusy(false)
  }
  async function undo(run: string) {
    setBusy(true)
    let result: CallResult<unknown> = await sendCommand('history.undo', { run })
    if (!result.ok && result.failure.kind === 'large')
      result = await sendCommand('work.begin', { command: 'history.undo', input: { run }, preview: false })
    setProblem(result.ok ? undefined : result.failure.message)
    await refresh()
    setBusy(false)
  }
  const button = (command: Act | 'undo', words: string) => (
    <Button
      kind="plain"
      busy={busy}
      onClick={() => void (command === 'undo' ? work.runId && undo(work.runId) : act(command))}
    >
      {words}
      <span className="sr-only">: {work.title}</span>
    </Button>
  )
  const alive = isAlive(work)
  return (
    <li className="border-t border-rule py-2" data-job={work.state}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="flex-1 basis-56">
          <strong className="block">{work.title}</strong>
          <span
            className={`flex items-center gap-2 text-[13px] ${work.state === 'failed' ? 'text-port' : 'text-muted'}`}
          >
            {work.state === 'running' && work.total > 0 && (
              <Progress label={work.title} done={work.done} total={work.total} />
            )}
            {workWords(work)}
          </span>
        </span>
        {work.documentId && (
          <a
            className="link"
            href={`/api/documents/${work.documentId}`}
            target="_blank"
            rel="noreferrer"
            aria-label={`Open the PDF: ${work.title}`}
          >
            Open the PDF
          </a>
        )}
        {work.runId && button('undo', 'Undo')}
        {alive && button('work.cancel', 'Cancel')}
        {(work.state === 'failed' || work.state === 'cancelled') && button('work.retry', 'Try again')}
        {!alive && work.dismissedAt === null && button('work.dismiss', 'Dismiss')}
      </div>
      {problem && <Problem>{problem}</Problem>}
    </li>
  )
}

/** Background work with its progress, its result, and what can be done with it. */
export function WorkList({ work }: { work: OwnWork }) {
  return (
    <ul>
      {work.map((one) => (
        <WorkItem key={one.id} work={one} />
      ))}
    </ul>
  )
}
