'use client'
import { spokenName } from '@/core/people/names'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Member } from './member-page'

/** Closes an account; says first what the person is still responsible for. */
export function Deactivate({
  m,
  today,
  onClose,
  onSaved,
}: {
  m: Member
  today: string
  onClose: () => void
  onSaved: () => void
}) {
  const name = spokenName(m.name)
  const of = useCommandForm('staff.deactivate', {
    schema: () => import('@/core/people/inputs').then((x) => x.deactivateInput),
    values: { lastDay: today },
    places: ['lastDay'],
    input: (v: { lastDay: string }) => ({ ...v, staffId: m.id, seen: m.version }),
    onSaved,
  })
  return (
    <DialogForm
      of={of}
      title={`Deactivate ${name}`}
      description="They are signed out at once and cannot sign in. Their name stays wherever it is in the history, and the account can be reactivated."
      save="Deactivate"
      onClose={onClose}
    >
      {m.responsible.length > 0 && (
        <p>
          <strong>Still responsible for:</strong> {m.responsible.map((d) => d.name).join(', ')}. After the
          last day these have one teacher fewer.
        </p>
      )}
      <FormDate of={of} name="lastDay" label="Last day of teaching" />
    </DialogForm>
  )
}
