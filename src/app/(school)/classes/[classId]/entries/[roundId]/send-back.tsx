'use client'
import { Field, TextArea } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { useCommandForm } from '@/screen/form/use-command-form'

interface Input {
  readonly roundId: string
  readonly classId: string
}

/** Asks for the remark with which entries go back to the teacher. */
export function SendBack({
  input,
  className,
  expectedVersion,
  onClose,
}: {
  input: Input
  className: string
  /** The version that was on the screen when the dialog opened. */
  expectedVersion: number
  onClose: (sent: boolean) => void
}) {
  const of = useCommandForm('reports.sendBack', {
    schema: () => import('@/core/reports/inputs').then((m) => m.sendBackInput),
    values: { remark: '' },
    places: ['remark'],
    input: ({ remark }: { remark: string }) => ({ ...input, expectedVersion, remark }),
    onSaved: () => onClose(true),
  })
  return (
    <DialogForm
      of={of}
      title={`Send back ${className}`}
      description="The teacher sees the remark and can edit the entries again; marks follow the gradebook again."
      save="Send back"
      onClose={() => onClose(false)}
    >
      <Field label="Remark" problem={of.problem('remark')}>
        {(field) => <TextArea {...field} rows={4} autoFocus {...of.form.register('remark')} />}
      </Field>
    </DialogForm>
  )
}
