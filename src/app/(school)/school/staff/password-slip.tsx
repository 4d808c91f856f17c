'use client'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { MailSignInButton, type MailSignIn } from './mail-sign-in'

/** The initial password to hand out, shown once and printed alone on its page. */
export function PasswordSlip({
  school,
  name,
  username,
  password,
  mail,
  onClose,
}: {
  school: string
  name: string
  username: string
  password: string
  /** Sends the user name and a link instead, for somebody with an e-mail address. */
  mail?: MailSignIn
  onClose: () => void
}) {
  return (
    <Dialog
      title={`Sign-in for ${name}`}
      description="Hand this over now: the password is not shown again. It must be changed at the first sign-in."
    >
      <dl
        data-slip
        className="my-4 grid grid-cols-[140px_1fr] gap-y-2 border border-ink bg-panel p-4 text-[15px]"
      >
        <dt className="text-muted">School</dt>
        <dd>{school}</dd>
        <dt className="text-muted">Address</dt>
        <dd>{window.location.origin}</dd>
        <dt className="text-muted">User name</dt>
        <dd className="font-bold">{username}</dd>
        <dt className="text-muted">Initial password</dt>
        <dd className="font-bold">{password}</dd>
      </dl>
      <p className="flex gap-3 no-print">
        <Button onClick={() => window.print()}>Print</Button>
        {mail && <MailSignInButton {...mail} />}
        <Button kind="plain" onClick={onClose}>
          Done
        </Button>
      </p>
    </Dialog>
  )
}
