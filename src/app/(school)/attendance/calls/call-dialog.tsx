'use client'
import { callOutcomes, type CallOutcome } from '@/core/attendance/calls'
import { sessionWords } from '@/core/attendance/sessions'
import { spokenName } from '@/core/people/names'
import type { QueryOutput } from '@/server/registry'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import type { Unexplained } from './calls'

interface Values {
  guardianId: string
  outcome: CallOutcome
  note: string
  callAgain: string
  codeId: string
}

/** Notes how a call ended, when to call again, and what the absence turned out to be. */
export function CallDialog({
  student,
  codes,
  date,
  onClose,
  onSaved,
}: {
  student: Unexplained
  codes: QueryOutput<'attendance.callList'>['codes']
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const name = spokenName(student.name)
  const of = useCommandForm('attendance.noteCall', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.callInput),
    values: {
      guardianId: student.guardians[0]?.id ?? '',
      outcome: 'reached',
      note: '',
      callAgain: '',
      codeId: '',
    } as Values,
    places: ['guardianId', 'outcome', 'note', 'callAgain', 'codeId'],
    input: (v: Values) => ({ ...v, studentId: student.studentId, date }),
    onSaved: ({ changed }, { codeId }, run) => {
      const code = codes.find((c) => c.id === codeId)?.code
      const marks = changed === 1 ? '1 mark is' : `${changed} marks are`
      onSaved(`The call about ${name} was saved.${code && changed > 0 ? ` ${marks} ${code} now.` : ''}`, run)
    },
  })
  return (
    <DialogForm of={of} title={`Call about ${name}`} save="Save" onClose={onClose}>
      <div className="grid gap-4 sm:grid-cols-2">
        <FormSelect of={of} name="guardianId" label="Called">
          <option value="">someone else</option>
          {student.guardians.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
              {g.phone && `, ${g.phone}`}
            </option>
          ))}
        </FormSelect>
        <FormSelect of={of} name="outcome" label="Result">
          {callOutcomes.map((outcome) => (
            <option key={outcome} value={outcome}>
              {outcome}
            </option>
          ))}
        </FormSelect>
      </div>
      <FormSelect
        of={of}
        name="codeId"
        label="Reason"
        help={`Changes the unexplained marks of the day (${student.sessions.map(sessionWords).join(', ')})`}
      >
        <option value="">not known yet</option>
        {codes.map((c) => (
          <option key={c.id} value={c.id}>
            {c.code} {c.label}
          </option>
        ))}
      </FormSelect>
      <div className="grid gap-4 sm:grid-cols-[2fr_1fr]">
        <FormText of={of} name="note" label="Note" />
        <FormText of={of} name="callAgain" label="Call again at" placeholder="10:30" />
      </div>
    </DialogForm>
  )
}
