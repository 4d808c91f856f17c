'use client'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem } from '@/ui/field'
import { clearKept, countKept } from '@/ui/saving/shelf'
import { useOutboxState, useSaving } from '@/screen/saving'
import { useSchool } from '@/screen/school-context'
import { tellSignedOut } from '@/screen/signed-out'
import { sendCommand } from '@/screen/server'

/** How long signing out waits for what is being saved, in milliseconds. */
const timeout = 4000

/** Signs out once everything is saved; otherwise says what would be lost and asks. Nothing stays on the device. */
export function SignOut({ how, onStay }: { how: 'here' | 'everywhere' | 'school'; onStay: () => void }) {
  const { outbox, flush } = useSaving()
  const { actor, schoolId } = useSchool()
  const { waiting } = useOutboxState()
  const [state, setState] = useState<'saving' | 'asking' | 'leaving'>('saving')
  const [problem, setProblem] = useState<string>()
  const { accountId } = actor
  const unsaved = useCallback(() => countKept({ accountId, schoolId }), [accountId, schoolId])

  const leave = useCallback(async () => {
    setState('leaving')
    if (how === 'school') return window.location.assign('/choose-school')
    if (how === 'everywhere') {
      const ended = await sendCommand('account.signOutEverywhere', {})
      if (!ended.ok) {
        setState('asking')
        return setProblem(ended.failure.message)
      }
    }
    const answer = await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
    if (!answer?.ok && how === 'here') {
      setState('asking')
      return setProblem('Kedge cannot be reached, so you are still signed in. Please try again.')
    }
    outbox?.stop()
    clearKept({ accountId })
    tellSignedOut(accountId)
    window.location.assign('/sign-in')
  }, [how, accountId, outbox])

  const began = useRef(0)
  useEffect(() => {
    if (state !== 'saving') return
    if (began.current === 0) {
      began.current = Date.now()
      flush()
      outbox?.resume()
    }
    if (unsaved() === 0) return void leave()
    const left = began.current + timeout - Date.now()
    const timer = setTimeout(() => setState('asking'), waiting.length === 0 ? 0 : Math.max(0, left))
    return () => clearTimeout(timer)
  }, [state, waiting, outbox, flush, unsaved, leave])

  const n = unsaved()
  if (state !== 'asking')
    return (
      <Dialog title="Signing out" onClose={onStay}>
        <p role="status">{n > 0 ? 'Saving your changes' : 'Please wait'}</p>
      </Dialog>
    )
  return (
    <Dialog
      title={how === 'school' ? 'Choose another school' : 'Sign out'}
      description={
        n === 0
          ? undefined
          : how === 'school'
            ? `${n === 1 ? '1 change is' : `${n} changes are`} not saved. They stay on this device and are sent when you come back to this school.`
            : `${n === 1 ? '1 change is' : `${n} changes are`} not saved. If you sign out now, ${n === 1 ? 'it is' : 'they are'} discarded.`
      }
      onClose={onStay}
    >
      {problem && <Problem>{problem}</Problem>}
      <p className="mt-3 flex gap-3">
        <Button onClick={onStay}>Stay signed in</Button>
        <Button kind="plain" onClick={() => void leave()}>
          {how === 'school' ? 'Continue' : n > 0 ? 'Discard and sign out' : 'Try again'}
        </Button>
      </p>
    </Dialog>
  )
}
