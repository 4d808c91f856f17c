'use client'
import { Field, TextArea } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { useCommandForm } from '@/screen/form/use-command-form'
import { lines } from '@/screen/form/lines'

/** Adds subjects, several at once. */
export function SubjectsDialog({
  onClose,
  onSaved,
}: {
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.addSubjects', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.subjectsInput),
    values: { names: '' },
    places: ['names'],
    input: (v: { names: string }) => ({ names: lines(v.names) }),
    onSaved: ({ subjects }) =>
      onSaved(subjects === 1 ? '1 subject added.' : `${subjects} subjects added.`, undefined),
  })
  return (
    <DialogForm of={of} title="Add subjects" save="Add" onClose={onClose}>
      <Field
        label="Subjects"
        help="One per line or separated by commas, in the order of the report card"
        problem={of.problem('names') ?? of.problem('names.0')}
      >
        {(field) => <TextArea {...field} rows={6} {...of.form.register('names')} />}
      </Field>
    </DialogForm>
  )
}
