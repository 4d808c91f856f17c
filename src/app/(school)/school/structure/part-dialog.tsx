'use client'
import type { PartKind } from '@/core/calendar/inputs'
import { Problem } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'

/** Gives a part of the structure another name, or removes it. */
export function PartDialog({
  kind,
  part: live,
  onClose,
  onSaved,
}: {
  kind: PartKind
  /** Undefined once somebody else has removed it. */
  part: { readonly id: string; readonly name: string; readonly version: number } | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const opened = useAtOpening(live)
  const part = live ?? opened ?? { id: '', name: '', version: 0 }
  const of = useCommandForm('year.renamePart', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.partInput),
    values: { name: part.name },
    edited: live,
    places: ['name'],
    input: (v: { name: string }) => ({ ...v, kind, partId: part.id, expectedVersion: part.version }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) => sendCommand('year.removePart', { kind, partId: part.id, expectedVersion: part.version }, key),
    (run) => onSaved(`${part.name} was removed.`, run),
  )
  return (
    <DialogForm of={of} title={part.name} onClose={onClose} more={<RemoveButton of={removal} />}>
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" />
    </DialogForm>
  )
}
