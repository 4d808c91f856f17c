'use client'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Field, TextInput } from '@/ui/field'

/** Opens over the page when the session has ended, so that nothing typed is left behind. */
export function SignInAgain({ username, onSignedIn }: { username: string; onSignedIn: () => void }) {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const password = new FormData(event.currentTarget).get('password')
    setBusy(true)
    const response = await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ username, password }),
    }).catch(() => undefined)
    setBusy(false)
    if (response?.ok) return onSignedIn()
    const answer = (await response?.json().catch(() => undefined)) as { message?: string } | undefined
    setProblem(answer?.message ?? 'Kedge cannot be reached just now. Try again in a moment.')
  }
  return (
    <Dialog
      title="Sign in again"
      description={`Your session has ended, ${username}. Nothing you typed is lost; it is saved once you have signed in.`}
    >
      <form onSubmit={(e) => void submit(e)} className="grid gap-4">
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
          <a className="self-center text-muted underline" href="/sign-in">
            Sign in as somebody else
          </a>
        </div>
      </form>
    </Dialog>
  )
}
