'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAtOpening } from '@/screen/form/use-opened'

/** When, why and where to a student, or several, leave. */
export function LeaveDialog({
  students: live,
  title,
  date,
  onClose,
  onSaved,
}: {
  students: readonly { readonly studentId: string; readonly expectedVersion: number }[]
  title: string
  date: string
  onClose: () => void
  onSaved: (lastDay: string, run: string | undefined) => void
}) {
  const students = useAtOpening(live)
  const of = useCommandForm('people.leave', {
    schema: () => import('@/core/people/inputs').then((m) => m.leaveInput),
    values: { lastDay: date, reason: '', destination: '' },
    places: ['lastDay', 'reason', 'destination'],
    input: (v: { lastDay: string; reason: string; destination: string }) => ({
      ...v,
      students: [...students],
    }),
    onSaved: (_, { lastDay }, run) => onSaved(lastDay, run),
  })
  return (
    <DialogForm
      of={of}
      title={title}
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
