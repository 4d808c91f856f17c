'use client'
import { useState } from 'react'
import { spokenName } from '@/core/people/names'
import { DialogForm } from '@/screen/form/dialog-form'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useSchool } from '@/screen/school-context'
import { InitialPassword, newInitialPassword } from '@/app/(school)/school/staff/initial-password'
import { MailSignInButton } from '@/app/(school)/school/staff/mail-sign-in'
import { PasswordSlip } from '@/app/(school)/school/staff/password-slip'
import type { Member } from './member'

/** A new initial password for someone who has forgotten theirs. */
export function NewPassword({
  m: live,
  onClose,
  onSaved,
}: {
  m: Member
  onClose: () => void
  onSaved: () => void
}) {
  const m = useAtOpening(live)
  const { schoolName } = useSchool()
  const name = spokenName(m.name)
  const username = m.account?.username ?? ''
  const [made, setMade] = useState<string>()
  const [initial] = useState(() => ({ password: newInitialPassword() }))
  const of = useCommandForm('staff.resetPassword', {
    schema: () => import('@/core/people/inputs').then((x) => x.newPasswordInput),
    values: initial,
    places: ['password'],
    input: (v: { password: string }) => ({ ...v, staffId: m.id, expectedVersion: m.version }),
    onSaved: (_, { password }) => {
      setMade(password)
      onSaved()
    },
  })
  if (made)
    return (
      <PasswordSlip school={schoolName} name={name} username={username} password={made} onClose={onClose} />
    )
  return (
    <DialogForm
      of={of}
      title={`New password for ${name}`}
      description="The password they have now stops working, and they are signed out on all devices."
      save="Set password"
      wide
      onClose={onClose}
    >
      <InitialPassword of={of} own={[username, name, schoolName]} />
      {m.fields.email && (
        <p className="flex flex-wrap items-center gap-3 border-t border-rule pt-3">
          <span>Or let them choose one themselves; the current password works until then.</span>
          <MailSignInButton staffId={m.id} email={m.fields.email} />
        </p>
      )}
    </DialogForm>
  )
}
