'use client'
import { useState } from 'react'
import { useLargeAct } from './large-act'
import { MessageAtFoot, useMessage } from './message'
import { sendCommand } from './server'

/** What the last act on a page has done, with its undo. */
export function useUndoable(refresh: () => Promise<void>) {
  const { message, say, warn } = useMessage()
  const [run, setRun] = useState<string>()
  const large = useLargeAct()
  return {
    message,
    /** The run that can be undone. */
    run,
    warn,
    /** An act is done; with its run it can be undone. */
    done(words: string, done?: string) {
      say(words)
      setRun(done)
    },
    async undo() {
      if (!run) return
      let result = await sendCommand('history.undo', { run })
      setRun(undefined)
      if (!result.ok && result.failure.kind === 'large') {
        say('Being undone as background work.')
        result = await large.act('history.undo', { run })
      }
      // The list shows it before it is said.
      await refresh()
      if (result.ok) say('Undone.')
      else warn(result.failure.message)
    },
  }
}

/** What the last act has done, above the work, with a button to undo it while that is possible. */
export function UndoableMessage({ of }: { of: ReturnType<typeof useUndoable> }) {
  return (
    <MessageAtFoot
      {...of.message}
      undo={of.run ? () => void of.undo() : undefined}
      onClose={() => of.done('')}
    />
  )
}
