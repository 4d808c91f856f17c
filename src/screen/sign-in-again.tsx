'use client'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, TextInput } from '@/ui/field'

interface Answer {
  readonly message?: string
  readonly next?: 'password' | 'school'
}

const pages = { password: '/set-password', school: '/choose-school' } as const

/** Opens over the page when the session has ended, so that nothing typed is lost. */
export function SignInAgain({
  username,
  owner,
  onSignedIn,
}: {
  username: string
  /** Account and school of the page: the session must work for the same again. */
  owner: string
  onSignedIn: () => void
}) {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const password = new FormData(event.currentTarget).get('password')
    const [, schoolId] = owner.split(' ')
    setBusy(true)
    const response = await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ username, password, schoolId }),
    }).catch(() => undefined)
    setBusy(false)
    const answer = (await response?.json().catch(() => undefined)) as Answer | undefined
    if (response?.ok && answer?.next) return window.location.assign(pages[answer.next])
    if (response?.ok) return onSignedIn()
    setProblem(answer?.message ?? 'Kedge cannot be reached at the moment. Please try again.')
  }
  return (
    <Dialog
      title="Sign in again"
      covers
      description={`Your session has ended, ${username}. Your changes are kept and will be saved once you sign in.`}
    >
      <form method="post" onSubmit={(e) => void submit(e)} className="grid gap-4">
        <Field label="Password" problem={problem}>
          {(field) => (
            <TextInput
              {...field}
              name="password"
              type="password"
              autoComplete="current-password"
              autoFocus
              required
            />
          )}
        </Field>
        <div className="flex gap-3">
          <Button type="submit" busy={busy}>
            Sign in
          </Button>
          <a className="link self-center text-muted" href="/sign-in">
            Sign in as someone else
          </a>
        </div>
      </form>
    </Dialog>
  )
}
