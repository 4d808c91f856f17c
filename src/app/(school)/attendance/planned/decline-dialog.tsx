'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Reported } from './planned'

/** Tells a guardian why an absence that was reported is not entered. */
export function DeclineDialog({
  reported,
  onClose,
  onSaved,
}: {
  reported: Reported
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('attendance.declineReport', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.declineInput),
    values: { answer: '' },
    places: ['answer'],
    input: (v: { answer: string }) => ({ ...v, reportId: reported.id, expectedVersion: reported.version }),
    onSaved: (_, __, run) => onSaved(`The absence of ${reported.student} was declined.`, run),
  })
  return (
    <DialogForm
      of={of}
      title={`Decline the absence of ${reported.student}`}
      description={`Reported by ${reported.guardian}: ${reported.reason}. They read your answer in Kedge.`}
      save="Decline"
      onClose={onClose}
    >
      <FormText of={of} name="answer" label="Why" />
    </DialogForm>
  )
}
