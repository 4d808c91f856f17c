'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { Dialog } from '@/ui/dialog'
import { Problem, Tick } from '@/ui/field'

const title = 'Your e-mail address'

function Decision({ own, onClose }: { own: QueryOutput<'staff.ownAddress'>; onClose: () => void }) {
  const of = useCommandForm('staff.shareAddress', {
    schema: () => import('@/core/people/inputs').then((m) => m.shareAddressInput),
    values: { shared: own.shared },
    places: ['shared'],
    onSaved: onClose,
  })
  return (
    <DialogForm
      of={of}
      title={title}
      description={`The school has ${own.email} for you. An administrator can change it.`}
      onClose={onClose}
    >
      <Tick label="Guardians of the students in my homeroom may see it" {...of.form.register('shared')} />
    </DialogForm>
  )
}

/** Whether guardians may see one's own address; only the person can agree to that. */
export function OwnAddress({ onClose }: { onClose: () => void }) {
  const { answer: own, problem } = useAnswer('staff.ownAddress', {})
  if (own?.email) return <Decision own={own} onClose={onClose} />
  return (
    <Dialog title={title} onClose={onClose}>
      {problem && <Problem>{problem}</Problem>}
      <p className="mb-4">
        {own ? 'The school has no e-mail address for you. An administrator can enter one.' : 'Loading'}
      </p>
      <Button kind="plain" onClick={onClose}>
        Close
      </Button>
    </Dialog>
  )
}
