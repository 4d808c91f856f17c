'use client'
import { useEffect, useState } from 'react'
import { useWatch } from 'react-hook-form'
import { proposedUsername } from '@/core/people/accounts'
import type { staffRoles } from '@/core/people/roles'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useSchool } from '@/screen/school-context'
import { InitialPassword, newInitialPassword } from './initial-password'
import type { MailSignIn } from './mail-sign-in'
import { PasswordSlip } from './password-slip'
import { RoleTicks } from './role-ticks'

interface Values {
  givenName: string
  familyName: string
  username: string
  roles: (typeof staffRoles)[number][]
  email: string
  phone: string
  password: string
}

/** Adds a member of staff with an account, and shows the slip to hand out. */
export function AddStaff({ onClose, onSaved }: { onClose: () => void; onSaved: () => void }) {
  const { schoolName } = useSchool()
  const [slip, setSlip] = useState<{ name: string; username: string; password: string; mail?: MailSignIn }>()
  const [initial] = useState((): Values => ({
    givenName: '',
    familyName: '',
    username: '',
    roles: ['teacher'],
    email: '',
    phone: '',
    password: newInitialPassword(),
  }))
  const of = useCommandForm('staff.create', {
    schema: () => import('@/core/people/inputs').then((m) => m.staffInput),
    values: initial,
    places: Object.keys(initial),
    onSaved: ({ staffId, username }, v) => {
      setSlip({
        name: `${v.givenName} ${v.familyName}`,
        username,
        password: v.password,
        ...(v.email ? { mail: { staffId, email: v.email } } : {}),
      })
      onSaved()
    },
  })
  const { control, setValue, formState } = of.form
  const [givenName, familyName, username, roles] = useWatch({
    control,
    name: ['givenName', 'familyName', 'username', 'roles'],
  })
  const isOwn = formState.dirtyFields.username === true
  useEffect(() => {
    if (!isOwn) setValue('username', proposedUsername(givenName, familyName))
  }, [isOwn, givenName, familyName, setValue])
  if (slip) return <PasswordSlip school={schoolName} {...slip} onClose={onClose} />
  return (
    <DialogForm
      of={of}
      title="Add a member of staff"
      description="They sign in with the user name and the initial password, and then choose their own."
      save="Add"
      wide
      onClose={onClose}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        <FormText of={of} name="givenName" label="Given name" />
        <FormText of={of} name="familyName" label="Family name" />
      </div>
      <div className="grid gap-4 sm:grid-cols-3">
        <FormText of={of} name="username" label="User name" autoComplete="off" />
        <FormText of={of} name="email" label="E-mail (optional)" type="email" />
        <FormText of={of} name="phone" label="Telephone (optional)" />
      </div>
      <RoleTicks
        chosen={roles}
        problem={of.problem('roles')}
        onChange={(next) => setValue('roles', next, { shouldDirty: true })}
      />
      <InitialPassword of={of} own={[username, givenName, familyName, schoolName]} />
    </DialogForm>
  )
}
