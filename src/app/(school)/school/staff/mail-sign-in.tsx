'use client'
import { useState } from 'react'
import { useDialogAct } from '@/screen/form/dialog-act'
import { sendCommand } from '@/screen/server'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'

export interface MailSignIn {
  readonly staffId: string
  readonly email: string
}

/** Mails a member of staff their user name with a link to choose a password, in place of the slip. */
export function MailSignInButton({ staffId, email }: MailSignIn) {
  const [sent, setSent] = useState(false)
  const mail = useDialogAct(
    (key) => sendCommand('staff.mailSignIn', { staffId }, key),
    () => setSent(true),
  )
  if (sent)
    return (
      <span role="status" className="self-center">
        A link to choose a password is on its way to {email}.
      </span>
    )
  return (
    <>
      <Button kind="plain" busy={mail.busy} onClick={() => void mail.run()}>
        E-mail a link to {email}
      </Button>
      {mail.problem && <Problem>{mail.problem}</Problem>}
    </>
  )
}
