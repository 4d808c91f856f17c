'use client'
import { useWatch } from 'react-hook-form'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { ChooseStaff } from './choose-staff'
import type { Homeroom, Structure } from './structure-page'

/** Who looks after a homeroom, from a day on. */
export function HomeroomDialog({
  s,
  edited,
  date,
  onClose,
  onSaved,
}: {
  s: Structure
  edited: Homeroom | undefined
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.setHomeroomTeachers', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.homeroomTeachersInput),
    values: { staffIds: [...(edited?.staffIds ?? [])], from: date },
    places: ['staffIds', 'from'],
    input: (v: { staffIds: string[]; from: string }) => ({
      ...v,
      homeroomId: edited?.id ?? '',
      seen: edited?.version ?? 0,
    }),
    onSaved: (_, __, run) => onSaved(`The teachers of ${edited?.name} were saved.`, run),
  })
  const staffIds = useWatch({ control: of.form.control, name: 'staffIds' })
  return (
    <DialogForm
      of={of}
      title={`${edited?.name}, homeroom teacher`}
      description="The change holds from its first day. What was before it stays as it is."
      onClose={onClose}
    >
      <ChooseStaff
        label="Homeroom teacher"
        staff={s.staff}
        chosen={staffIds}
        problem={of.problem('staffIds')}
        onChange={(next) => of.form.setValue('staffIds', next, { shouldDirty: true })}
      />
      <FormDate of={of} name="from" label="First day" />
    </DialogForm>
  )
}
