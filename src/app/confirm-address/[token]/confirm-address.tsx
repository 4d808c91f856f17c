'use client'
import { useState } from 'react'
import type { Confirmed } from '@/server/platform/confirmed-address'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'

/** Confirms the address for the account that is signed in, or says what stands in the way. */
export function ConfirmAddress({ token }: { token: string }) {
  const [answer, setAnswer] = useState<Confirmed>()
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function confirm() {
    setBusy(true)
    const response = await fetch('/api/confirm-address', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ token }),
    }).catch(() => undefined)
    setBusy(false)
    if (!response?.ok) return setProblem('Kedge is not available at the moment. Please try again.')
    setProblem(undefined)
    setAnswer((await response.json()) as Confirmed)
  }
  if (answer?.kind === 'confirmed')
    return (
      <p role="status">
        {answer.email} is confirmed.{' '}
        <a className="link" href="/">
          Continue to Kedge
        </a>
      </p>
    )
  if (answer?.kind === 'used')
    return (
      <p role="status">
        This link no longer works. It has been used already, is older than a day, or was sent to an address
        you no longer have. Ask for a new one from the menu under your name.
      </p>
    )
  return (
    <>
      <p className="mb-4 text-muted">Links to choose a new password are then sent to this address.</p>
      {problem && <Problem>{problem}</Problem>}
      {answer?.kind === 'sign in first' && (
        <p role="status" className="mb-4">
          Sign in as {answer.username} first.{' '}
          <a className="link" href={`/sign-in?next=${encodeURIComponent(`/confirm-address/${token}`)}`}>
            Sign in
          </a>
        </p>
      )}
      <Button busy={busy} onClick={() => void confirm()}>
        Confirm address
      </Button>
    </>
  )
}
