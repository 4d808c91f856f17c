'use client'
import { useState } from 'react'
import { Button } from '@/ui/button'
import { newKey, type CallResult } from '@/screen/server'

/** The act of removing what a dialog shows: sent once however often it is pressed, with what stopped it. */
export function useRemoval(
  remove: (key: string) => Promise<CallResult<unknown>>,
  onRemoved: (run: string | undefined) => void,
) {
  const [state, setState] = useState<{ key: string; problem?: string; busy: boolean }>()
  return {
    busy: state?.busy ?? false,
    problem: state?.problem,
    async remove() {
      const key = state?.key ?? newKey()
      setState({ key, busy: true })
      const result = await remove(key)
      if (result.ok) return onRemoved(result.run)
      setState({ key, busy: false, problem: result.failure.message })
    },
  }
}

/** Removes what the dialog shows, for good or only from where it is shown. */
export function RemoveButton({ of, from }: { of: ReturnType<typeof useRemoval>; from?: string }) {
  return (
    <Button kind="quiet" className="ml-auto" busy={of.busy} onClick={() => void of.remove()}>
      {from ? `Remove from ${from}` : 'Remove'}
    </Button>
  )
}
