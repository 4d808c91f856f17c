import type { Metadata } from 'next'
import { openPasswordLink } from '@/server/platform/new-password'
import { PasswordByLinkForm } from './password-by-link-form'

export const metadata: Metadata = { title: 'Choose a password · Kedge' }

/** Where the link of a mail about a password leads. */
export default async function NewPasswordPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  const owner = await openPasswordLink(token)
  if (!owner)
    return (
      <main className="mx-auto max-w-md px-6 py-16">
        <h1 className="mb-1">This link no longer works</h1>
        <p className="text-muted">It has been used already, or it is too old.</p>
        <p className="mt-4 flex gap-6">
          <a className="link" href="/forgotten-password">
            Send a new link
          </a>
          <a className="link" href="/sign-in">
            Sign in
          </a>
        </p>
      </main>
    )
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-1">Choose a password</h1>
      <p className="mb-6 text-muted">
        For {owner.name}, user name {owner.username}. It ends your sessions on all devices.
      </p>
      <PasswordByLinkForm token={token} own={[owner.username, owner.email, owner.name, owner.schoolName]} />
    </main>
  )
}
