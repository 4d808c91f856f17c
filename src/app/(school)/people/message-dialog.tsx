'use client'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import { Field, Problem, TextArea } from '@/ui/field'

/** Writes an e-mail to the guardians of some students, or to some guardians. Says first whom it reaches. */
export function MessageDialog({
  studentIds = [],
  guardianIds = [],
  onClose,
  onSent,
}: {
  studentIds?: readonly string[]
  guardianIds?: readonly string[]
  onClose: () => void
  onSent: (words: string) => void
}) {
  const to = { studentIds: [...studentIds], guardianIds: [...guardianIds] }
  const { answer, problem } = useAnswer('people.recipients', to)
  const of = useCommandForm('people.writeMessage', {
    schema: () => import('@/core/people/inputs').then((m) => m.messageInput),
    values: { subject: '', text: '' },
    places: ['subject', 'text'],
    input: (v: { subject: string; text: string }) => ({ ...v, ...to }),
    onSaved: ({ sent }) =>
      onSent(sent === 1 ? '1 message is on its way.' : `${sent} messages are on their way.`),
  })
  const without = answer?.withoutAddress ?? []
  return (
    <DialogForm
      of={of}
      title="Write to guardians"
      description="Each guardian gets an e-mail of their own. Only those who may receive reports are written to."
      save="Send"
      wide
      onClose={onClose}
    >
      {problem && <Problem>{problem}</Problem>}
      <div role="status">
        {answer && (
          <p>
            <strong>{answer.reached === 1 ? '1 guardian' : `${answer.reached} guardians`}</strong> will get it
            {without.length > 0 && `, ${without.length} cannot: no e-mail address`}.
          </p>
        )}
      </div>
      {without.length > 0 && (
        <details>
          <summary className="link w-fit cursor-pointer">Show those without an address</summary>
          <ul
            className="mt-2 grid max-h-40 gap-1 overflow-auto text-[13px]"
            tabIndex={0}
            aria-label="Without an address"
          >
            {without.map((g) => (
              <li key={g.name + g.students}>
                {g.name}, for {g.students}
              </li>
            ))}
          </ul>
        </details>
      )}
      <FormText of={of} name="subject" label="Subject" />
      <Field label="Message" problem={of.problem('text')}>
        {(field) => <TextArea {...field} rows={8} {...of.form.register('text')} />}
      </Field>
    </DialogForm>
  )
}
