'use client'
import { letterFields } from '@/core/attendance/letter'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormText, FormTextArea } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { Template } from './letters'

const beginning = {
  name: '',
  subject: 'Attendance of {student}',
  body: 'Dear {guardian},\n\n{student} was present in {percent} of the sessions from {from} to {to}: {missed} of {possible} were missed, {no reason} of them without a reason yet.\n\nPlease call us, so that we can see how to help.\n\n{sender}\n{school}',
}

/** The text of a letter, with the fields that are filled in for each student. */
export function TemplateDialog({
  edited,
  onClose,
  onSaved,
}: {
  edited: Template | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('attendance.saveLetterTemplate', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.letterTemplateInput),
    values: edited ? { name: edited.name, subject: edited.subject, body: edited.body } : beginning,
    edited,
    places: ['name', 'subject', 'body'],
    input: (v: typeof beginning) => ({
      ...v,
      templateId: edited?.id ?? null,
      expectedVersion: edited?.version ?? 0,
    }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'attendance.removeLetterTemplate',
        { templateId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${edited?.name} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={edited ? edited.name : 'A template of a letter'}
      save="Save"
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" placeholder="Below 90%" />
      <FormText of={of} name="subject" label="Subject" />
      <FormTextArea of={of} name="body" label="Text" rows={11} />
      <details>
        <summary className="link w-fit">Fields that are filled in</summary>
        <dl className="mt-2 grid grid-cols-[8rem_1fr] gap-x-3 text-[13px]">
          {Object.entries(letterFields).map(([name, words]) => (
            <div key={name} className="contents">
              <dt className="font-bold">{`{${name}}`}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
      </details>
    </DialogForm>
  )
}
