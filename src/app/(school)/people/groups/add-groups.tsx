'use client'
import { Field, TextArea } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { lines } from '@/screen/form/lines'
import { useCommandForm } from '@/screen/form/use-command-form'

/** Adds analysis groups, several at once. */
export function AddGroups({
  onClose,
  onSaved,
}: {
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('people.addGroups', {
    schema: () => import('@/core/people/inputs').then((m) => m.groupsInput),
    values: { names: '' },
    places: ['names'],
    input: (v: { names: string }) => ({ names: lines(v.names) }),
    onSaved: ({ groups }) => onSaved(groups === 1 ? '1 group added.' : `${groups} groups added.`, undefined),
  })
  return (
    <DialogForm of={of} title="Add groups" save="Add" onClose={onClose}>
      <Field
        label="Groups"
        help="One per line or separated by commas"
        problem={of.problem('names') ?? of.problem('names.0')}
      >
        {(field) => <TextArea {...field} rows={4} {...of.form.register('names')} />}
      </Field>
    </DialogForm>
  )
}
