'use client'
import { useState, type FormEvent } from 'react'
import { checkPassword } from '@/core/people/password-rule'
import { NewPassword } from '@/screen/new-password'
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
  const [password, setPassword] = useState('')
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  const own = [invitation.email, invitation.name, invitation.schoolName]
  async function accept(typed?: string) {
    setBusy(true)
    const accepted = await send(token, typed)
    setBusy(false)
    if (accepted?.kind === 'accepted')
      return window.location.assign(typed === undefined ? '/choose-school' : '/sign-in')
    if (accepted?.kind === 'password') return setProblem(accepted.problems.join(' '))
    setProblem(messages[accepted?.kind ?? 'away'])
  }
  async function signOut() {
    await fetch('/api/sign-out', { method: 'POST' }).catch(() => undefined)
    window.location.reload()
  }
  function submit(event: FormEvent) {
    event.preventDefault()
    const unmet = checkPassword(password, own).find((check) => !check.met)
    if (unmet) return setProblem(`This password does not meet the rule yet: ${unmet.text}`)
    void accept(password)
  }
  if (signedInAs)
    return (
      <div className="grid gap-4">
        {problem && <Problem>{problem}</Problem>}
        <p>You are signed in as {signedInAs}. Accepting adds this to your account.</p>
        <Button busy={busy} className="justify-self-start" onClick={() => void accept()}>
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
    <form onSubmit={submit} className="grid gap-4" noValidate>
      <NewPassword
        own={own}
        value={password}
        problem={problem}
        autoFocus
        onChange={(value) => {
          setPassword(value)
          setProblem(undefined)
        }}
      />
      <Button type="submit" busy={busy} className="justify-self-start">
        Save password
      </Button>
      <p className="text-muted">
        You then sign in with {invitation.email}. If you already use Kedge with another account,{' '}
        <a className="link" href={signIn}>
          sign in with it
        </a>{' '}
        instead.
      </p>
    </form>
  )
}
