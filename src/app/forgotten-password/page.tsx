import type { Metadata } from 'next'
import { ForgottenForm } from './forgotten-form'

export const metadata: Metadata = { title: 'Forgotten password · Kedge' }

/** For somebody who cannot sign in any more. */
export default function ForgottenPasswordPage() {
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-1">Forgotten password</h1>
      <p className="mb-6 text-muted">
        Kedge mails a link to the e-mail address of your account. It works once, for one hour.
      </p>
      <ForgottenForm />
      <p className="mt-6">
        <a className="link" href="/sign-in">
          Back to sign in
        </a>
      </p>
    </main>
  )
}
