import type { Metadata } from 'next'
import { currentSession } from '@/screen/page-data'
import { openInvitation } from '@/server/platform/invitation'
import { AcceptForm } from './accept-form'

export const metadata: Metadata = { title: 'Your invitation · Kedge' }

/** Where an invitation's link leads: choose a password, or accept with an existing account. */
export default async function InvitationPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  const [invitation, session] = await Promise.all([openInvitation(token), currentSession()])
  if (!invitation)
    return (
      <main className="mx-auto max-w-md px-6 py-16">
        <h1 className="mb-1">This link no longer works</h1>
        <p className="text-muted">
          It has been used already, or it is too old. If you have an account, you can sign in. Otherwise ask
          the school&apos;s office for a new invitation.
        </p>
        <p className="mt-4">
          <a className="link" href="/sign-in">
            Sign in
          </a>
        </p>
      </main>
    )
  const signedInAs =
    session.kind === 'signed out'
      ? undefined
      : session.kind === 'choose school'
        ? session.name
        : session.actor.name
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-1">{invitation.schoolName}</h1>
      <p className="mb-6 text-muted">
        {invitation.schoolName} invites {invitation.name} ({invitation.email}) to read report cards in Kedge.
      </p>
      <AcceptForm token={token} invitation={invitation} signedInAs={signedInAs} />
    </main>
  )
}
