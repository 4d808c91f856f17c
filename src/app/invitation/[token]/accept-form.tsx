'use client'
import { useState } from 'react'
import { NewPasswordForm } from '@/screen/new-password'
import type { Accepted, OpenInvitation } from '@/server/platform/invitation'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'

async function send(token: string, password?: string): Promise<Accepted | undefined> {
  const response = await fetch('/api/invitation', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ token, password }),
  }).catch(() => undefined)
  return response?.ok ? ((await response.json()) as Accepted) : undefined
}

const messages = {
  used: 'This link no longer works. Ask the school’s office for a new invitation.',
  'sign in first': 'An account with this address already exists. Sign in and open the link again.',
  away: 'Kedge is not available at the moment. Please try again.',
} as const

/** Accepts an invitation as the account signed in, or with a new account and its password. */
export function AcceptForm({
  token,
  invitation,
  signedInAs,
}: {
  token: string
  invitation: OpenInvitation
  signedInAs: string | undefined
}) {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const own = [invitation.email, invitation.name, invitation.schoolName]
  /** Answers what is wrong, or undefined when it was accepted. */
  async function accept(typed?: string): Promise<string | undefined> {
    const accepted = await send(token, typed)
    if (accepted?.kind === 'password') return accepted.problems.join(' ')
    if (accepted?.kind !== 'accepted') return messages[accepted?.kind ?? 'away']
    window.location.assign(typed === undefined ? '/choose-school' : '/sign-in')
    return undefined
  }
  async function acceptAsOneself() {
    setBusy(true)
    setProblem(await accept())
    setBusy(false)
  }
  async function signOut() {
    await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
    window.location.reload()
  }
  if (signedInAs)
    return (
      <div className="grid gap-4">
        {problem && <Problem>{problem}</Problem>}
        <p>You are signed in as {signedInAs}. Accepting adds this to your account.</p>
        <Button busy={busy} className="justify-self-start" onClick={() => void acceptAsOneself()}>
          Accept as {signedInAs}
        </Button>
        <Button kind="quiet" className="justify-self-start" onClick={() => void signOut()}>
          Use another account
        </Button>
      </div>
    )
  const signIn = `/sign-in?next=${encodeURIComponent(`/invitation/${token}`)}`
  if (invitation.hasAccount)
    return (
      <p>
        An account with this address already exists.{' '}
        <a className="link" href={signIn}>
          Sign in
        </a>{' '}
        to accept the invitation.
      </p>
    )
  return (
    <NewPasswordForm own={own} send={accept}>
      <p className="text-muted">
        You then sign in with {invitation.email}. If you already use Kedge with another account,{' '}
        <a className="link" href={signIn}>
          sign in with it
        </a>{' '}
        instead.
      </p>
    </NewPasswordForm>
  )
}
