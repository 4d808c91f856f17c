'use client'
import { useEffect, useRef, useState } from 'react'
import { isAlive } from '@/core/work'
import type { Failure } from '@/server/platform/failure'
import type { Preview } from '@/server/platform/preview'
import type { CommandInput, CommandName, CommandOutput } from '@/server/registry'
import { sendQuery, newKey, sendCommand, type CallResult } from './server'
import { useWork, type OwnWork } from './work'

/** What came of background work, as its kind left it. */
interface Came<N extends CommandName> {
  readonly preview?: Preview
  readonly value?: CommandOutput<N>
  readonly failure?: Failure
}

interface Waiting {
  readonly jobId: string
  readonly end: (result: CallResult<unknown>) => void
}

/** An answer, not silence: whoever asks once more asks for another act. */
const stopped = (message: string | null): CallResult<never> => ({
  ok: false,
  failure: {
    kind: 'refused',
    code: 'work.stopped',
    about: null,
    message: message ?? 'This stopped before it was finished.',
  },
})

/** How an act ended, once it has; undefined while it still waits or runs, or while that cannot be asked. */
async function endOf(jobId: string): Promise<CallResult<unknown> | undefined> {
  const asked = await sendQuery('work.result', { jobId })
  if (!asked.ok || isAlive(asked.value)) return undefined
  const { state, message, result, runId } = asked.value
  const { failure, preview, value } = (result ?? {}) as Came<CommandName>
  if (failure) return { ok: false, failure }
  if (state !== 'done') return stopped(message)
  return { ok: true, value: preview ?? value, run: runId ?? undefined }
}

/**
 * Acts that are too large to wait for: they run as background work and are followed here, one at a time. They go on
 * when the page is left.
 */
export function useLargeAct() {
  const { all, refresh } = useWork()
  const [jobId, setJobId] = useState<string>()
  const waiting = useRef<Waiting>(undefined)
  useEffect(() => {
    const { current } = waiting
    if (!current || all.some((work) => work.id === current.jobId && isAlive(work))) return
    void endOf(current.jobId).then((end) => {
      if (!end || waiting.current !== current) return
      waiting.current = undefined
      setJobId(undefined)
      current.end(end)
    })
  }, [all, jobId])

  async function begin<N extends CommandName, T>(
    command: N,
    input: CommandInput<N>,
    of: { readonly preview: boolean; readonly fingerprint?: string },
    key: string,
  ): Promise<CallResult<T>> {
    const begun = await sendCommand('work.begin', { command, input, ...of }, key)
    if (!begun.ok) return begun
    const ended = new Promise<CallResult<unknown>>((end) => {
      waiting.current = { jobId: begun.value.jobId, end }
    })
    setJobId(begun.value.jobId)
    await refresh()
    return (await ended) as CallResult<T>
  }
  return {
    /** The act under way, with its progress. */
    work: all.find((work): work is OwnWork[number] => work.id === jobId),
    isRunning: jobId !== undefined,
    preview: <N extends CommandName>(command: N, input: CommandInput<N>) =>
      begin<N, Preview>(command, input, { preview: true }, newKey()),
    act: <N extends CommandName>(
      command: N,
      input: CommandInput<N>,
      { key = newKey(), fingerprint }: { key?: string; fingerprint?: string } = {},
    ) => begin<N, CommandOutput<N>>(command, input, { preview: false, fingerprint }, key),
    /** Asks for the act under way to stop; it ends as cancelled then, or as done where it was already. */
    async cancel() {
      if (jobId) await sendCommand('work.cancel', { jobId })
      await refresh()
    },
  }
}
