'use client'
import { useState } from 'react'
import { NewPasswordForm } from '@/screen/new-password'
import type { PasswordByLink } from '@/server/platform/new-password'

/** Sets the password; the link works no more after that. */
export function PasswordByLinkForm({ token, own }: { token: string; own: readonly string[] }) {
  const [changed, setChanged] = useState<string>()
  async function send(password: string): Promise<string | undefined> {
    const response = await fetch('/api/new-password', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ token, password }),
    }).catch(() => undefined)
    if (!response?.ok) return 'Kedge is not available at the moment. Please try again.'
    const done = (await response.json()) as PasswordByLink
    if (done.kind === 'password') return done.problems.join(' ')
    if (done.kind === 'used') return 'This link no longer works. Ask for a new one.'
    setChanged(done.username)
    return undefined
  }
  if (changed)
    return (
      <p role="status">
        The password is changed.{' '}
        <a className="link" href="/sign-in">
          Sign in
        </a>{' '}
        as {changed}.
      </p>
    )
  return <NewPasswordForm own={own} send={send} />
}
