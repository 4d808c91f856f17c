'use client'
import { useWatch } from 'react-hook-form'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { ChooseStaff, namesOf } from '@/app/(school)/school/structure/choose-staff'
import { RoomSelect } from '@/app/(school)/school/structure/room-select'
import type { Homeroom, Structure } from '@/app/(school)/school/structure/use-structure'

/** The room of a homeroom, and who looks after it from a day on. */
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
  const of = useCommandForm('year.saveHomeroom', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.homeroomInput),
    values: { roomId: edited?.roomId ?? '', staffIds: [...(edited?.staffIds ?? [])], from: date },
    edited,
    places: ['roomId', 'staffIds', 'from'],
    input: (v: { roomId: string; staffIds: string[]; from: string }) => ({
      ...v,
      homeroomId: edited?.id ?? '',
      expectedVersion: edited?.version ?? 0,
    }),
    onSaved: (_, __, run) => onSaved(`${edited?.name} was saved.`, run),
  })
  const staffIds = useWatch({ control: of.form.control, name: 'staffIds' })
  return (
    <DialogForm
      of={of}
      title={edited?.name ?? ''}
      description="Another homeroom teacher begins on the first day below. Who it was before stays in the history."
      onClose={onClose}
    >
      <ChooseStaff
        label="Homeroom teacher"
        staff={s.staff}
        chosen={staffIds}
        problem={of.problem('staffIds')}
        onChange={(next) => of.form.setValue('staffIds', next, { shouldDirty: true })}
      />
      <Theirs of={of} name="staffIds" label="the homeroom teacher" words={(ids) => namesOf(s.staff, ids)} />
      <FormDate of={of} name="from" label="First day" />
      <RoomSelect of={of} s={s} />
    </DialogForm>
  )
}
