'use client'
import { useState, type FormEvent } from 'react'
import { Button } from '@/ui/button'
import { Field, TextInput } from '@/ui/field'

/** Asks for the account; what follows is the same whether there is one or not. */
export function ForgottenForm() {
  const [state, setState] = useState<'asking' | 'busy' | 'sent'>('asking')
  const [problem, setProblem] = useState<string>()
  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault()
    const username = new FormData(event.currentTarget).get('username')
    setState('busy')
    const response = await fetch('/api/forgotten-password', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ username }),
    }).catch(() => undefined)
    if (response?.ok) return setState('sent')
    const answer = (await response?.json().catch(() => undefined)) as { message?: string } | undefined
    setProblem(answer?.message ?? 'Kedge cannot be reached at the moment. Please try again.')
    setState('asking')
  }
  if (state === 'sent')
    return (
      <div role="status">
        <p>If the account has an e-mail address, a link is on its way to it.</p>
        <p className="mt-2 text-muted">
          Nothing after a few minutes? Look among unwanted mail, or ask an administrator of your school for a
          new password. Guardians ask the school&apos;s office.
        </p>
      </div>
    )
  return (
    <form method="post" onSubmit={(e) => void submit(e)} className="grid gap-4">
      <Field label="User name or e-mail" problem={problem}>
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
      <Button type="submit" busy={state === 'busy'} className="justify-self-start">
        Send a link
      </Button>
    </form>
  )
}
