import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { currentSession } from '@/screen/page-data'
import { SetPasswordForm } from './set-password-form'

export const metadata: Metadata = { title: 'Choose a password · Kedge' }

export default async function SetPasswordPage() {
  const session = await currentSession()
  if (session.kind === 'signed out') redirect('/sign-in')
  if (session.kind === 'choose school') redirect('/choose-school')
  const { actor } = session
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-1">Choose your own password</h1>
      <p className="mb-6 text-muted">
        {session.kind === 'password first'
          ? `Welcome, ${actor.name}. The password you were given was only for this first sign-in.`
          : `A new password for ${actor.name}. It ends your sessions on other devices.`}
      </p>
      <SetPasswordForm
        own={[actor.username, actor.name, actor.schoolName]}
        askPresent={session.kind === 'signed in'}
      />
    </main>
  )
}
