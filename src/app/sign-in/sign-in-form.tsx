'use client'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Field, TextInput, Tick } from '@/ui/field'

/** Asks for user name and password, then continues to the page that was asked for. */
export function SignInForm({ next }: { next: string }) {
  const [problem, setProblem] = useState<string>()
  const [busy, setBusy] = useState(false)
  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    setBusy(true)
    const response = await fetch('/api/sign-in', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        username: form.get('username'),
        password: form.get('password'),
        sharedComputer: form.get('shared') !== null,
      }),
    }).catch(() => undefined)
    if (response?.ok) {
      window.location.assign(next)
      return
    }
    const answer = (await response?.json().catch(() => undefined)) as { message?: string } | undefined
    setProblem(answer?.message ?? 'Kedge cannot be reached at the moment. Please try again.')
    setBusy(false)
  }
  return (
    <form method="post" onSubmit={(e) => void submit(e)} className="grid gap-4">
      <Field label="User name or e-mail">
        {(field) => (
          <TextInput
            {...field}
            name="username"
            autoComplete="username"
            autoCapitalize="none"
            autoFocus
            required
          />
        )}
      </Field>
      <Field label="Password" problem={problem}>
        {(field) => (
          <TextInput {...field} name="password" type="password" autoComplete="current-password" required />
        )}
      </Field>
      <Tick
        name="shared"
        label="Others use this computer"
        detail="you are signed out after 15 minutes of inactivity"
      />
      <Button type="submit" busy={busy} className="justify-self-start">
        Sign in
      </Button>
    </form>
  )
}
