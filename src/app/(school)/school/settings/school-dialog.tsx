'use client'
import type { QueryOutput } from '@/server/registry'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'

/** The school's name, address and time zone. */
export function SchoolDialog({
  school,
  onClose,
  onSaved,
}: {
  school: QueryOutput<'year.settings'>['school']
  onClose: () => void
  onSaved: (words: string) => void
}) {
  const of = useCommandForm('year.saveSchool', {
    schema: () => import('@/core/school-input').then((m) => m.schoolInput),
    values: { name: school.name, address: school.address ?? '', timeZone: school.timeZone },
    edited: school,
    places: ['name', 'address', 'timeZone'],
    input: (values) => ({ ...values, expectedVersion: school.version }),
    onSaved: (_, { name }) =>
      onSaved(`${name} was saved. Pages that are open show it when they are opened again.`),
  })
  return (
    <DialogForm of={of} title="The school" onClose={onClose}>
      <FormText of={of} name="name" label="Name" help="On every page, report card, certificate and mail" />
      <FormText of={of} name="address" label="Address" help="On certificates of attendance" />
      <FormText
        of={of}
        name="timeZone"
        label="Time zone"
        help="Decides which day and time it is. Such as Europe/London"
      />
    </DialogForm>
  )
}
