import type { Metadata } from 'next'
import { ConfirmAddress } from './confirm-address'

export const metadata: Metadata = { title: 'Confirm your e-mail address · Kedge' }

/** Where the link of a mail leads that confirms an address. Opening it alone changes nothing: mail programs do that too. */
export default async function ConfirmAddressPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      <h1 className="mb-4">Confirm your e-mail address</h1>
      <ConfirmAddress token={token} />
    </main>
  )
}
