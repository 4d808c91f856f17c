'use client'
import type { z } from 'zod'
import { Field, TextArea } from '@/ui/field'
import { DialogForm } from './dialog-form'
import { lines } from './lines'
import { useCommandForm } from './use-command-form'

/** Adds several of a kind by their names, such as subjects. */
export function NamesDialog({
  command,
  schema,
  title,
  label,
  help = 'One per line or separated by commas',
  one,
  many,
  onClose,
  onSaved,
}: {
  command: 'year.addSubjects' | 'year.addRooms' | 'people.addGroups'
  schema: () => Promise<z.ZodType>
  title: string
  label: string
  help?: string
  /** What one and several of them are called. */
  one: string
  many: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm(command, {
    schema,
    values: { names: '' },
    places: ['names'],
    input: (v: { names: string }) => ({ names: lines(v.names) }),
    onSaved: ({ added }) => onSaved(added === 1 ? `1 ${one} added.` : `${added} ${many} added.`, undefined),
  })
  const { errors } = of.form.formState
  const wrong = Object.keys(errors.names ?? {}).find((key) => /^\d+$/.test(key))
  return (
    <DialogForm of={of} title={title} save="Add" onClose={onClose}>
      <Field label={label} help={help} problem={of.problem('names') ?? of.problem(`names.${wrong}`)}>
        {(field) => <TextArea {...field} rows={6} {...of.form.register('names')} />}
      </Field>
    </DialogForm>
  )
}
