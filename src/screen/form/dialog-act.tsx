'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { useAtOpening } from './use-opened'
import { newKey, type CallResult } from '@/screen/server'

/**
 * An act of a dialog beside its form: sent once however often it is pressed, with what stopped it. Sent again with the
 * same key only while nobody knows whether it has arrived.
 */
export function useDialogAct(
  send: (key: string) => Promise<CallResult<unknown>>,
  onDone: (run: string | undefined) => void,
) {
  const [state, setState] = useState<{ key?: string; problem?: string; busy: boolean }>({ busy: false })
  return {
    busy: state.busy,
    problem: state.problem,
    async run() {
      const key = state.key ?? newKey()
      setState({ key, busy: true })
      const result = await send(key)
      if (result.ok) return onDone(result.run)
      const { kind, message } = result.failure
      setState({ key: kind === 'unavailable' ? key : undefined, busy: false, problem: message })
    },
  }
}

/**
 * The act that removes the record of a dialog, with the version that was in sight when it opened; with the present one
 * once a conflict was shown.
 */
export function useRemoval(
  remove: (key: string) => Promise<CallResult<unknown>>,
  onDone: (run: string | undefined) => void,
) {
  const opened = useAtOpening(remove)
  const [told, setTold] = useState(false)
  return useDialogAct(async (key) => {
    const result = await (told ? remove : opened)(key)
    if (!result.ok && result.failure.kind === 'conflict') setTold(true)
    return result
  }, onDone)
}

/** Removes what the dialog shows, for good or only from where it is shown. */
export function RemoveButton({ of, from }: { of: ReturnType<typeof useDialogAct>; from?: string }) {
  return (
    <Button kind="quiet" className="ml-auto" busy={of.busy} onClick={() => void of.run()}>
      {from ? `Remove from ${from}` : 'Remove'}
    </Button>
  )
}
