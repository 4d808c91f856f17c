'use client'
import { Problem } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { Group } from './groups'

/** Gives a group another name, or removes one that nobody was ever in. */
export function GroupDialog({
  group: live,
  onClose,
  onSaved,
}: {
  /** Undefined once somebody else has removed it. */
  group: Group | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const opened = useAtOpening(live)
  const group = live ?? opened ?? { id: '', name: '', version: 0 }
  const of = useCommandForm('people.saveGroup', {
    schema: () => import('@/core/people/inputs').then((m) => m.groupInput),
    values: { name: group.name },
    edited: live,
    places: ['name'],
    input: (v: { name: string }) => ({ ...v, groupId: group.id, expectedVersion: group.version }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) => sendCommand('people.removeGroup', { groupId: group.id, expectedVersion: group.version }, key),
    (run) => onSaved(`${group.name} was removed.`, run),
  )
  return (
    <DialogForm of={of} title={group.name} onClose={onClose} more={<RemoveButton of={removal} />}>
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" />
    </DialogForm>
  )
}
