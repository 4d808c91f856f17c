'use client'
import { spokenName } from '@/core/people/names'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Student } from './record-page'

/** When, why and where to a student leaves. */
export function LeaveDialog({
  s,
  date,
  onClose,
  onSaved,
}: {
  s: Student
  date: string
  onClose: () => void
  onSaved: (lastDay: string, run: string | undefined) => void
}) {
  const of = useCommandForm('people.leave', {
    schema: () => import('@/core/people/inputs').then((m) => m.leaveInput),
    values: { lastDay: date, reason: '', destination: '' },
    places: ['lastDay', 'reason', 'destination'],
    input: (v: { lastDay: string; reason: string; destination: string }) => ({
      ...v,
      students: [{ studentId: s.id, seen: s.rollVersion }],
    }),
    onSaved: (_, { lastDay }, run) => onSaved(lastDay, run),
  })
  return (
    <DialogForm
      of={of}
      title={`${spokenName(s.fields.sortName)} leaves the school`}
      description="Year group, homeroom and classes end on the last day. Marks, attendance and reports stay."
      save="Leave"
      onClose={onClose}
    >
      <FormDate of={of} name="lastDay" label="Last day at this school" />
      <FormText of={of} name="reason" label="Reason" placeholder="Moved to another island" />
      <FormText of={of} name="destination" label="Destination" help="The next school, if it is known" />
    </DialogForm>
  )
}
