'use client'
import { useState } from 'react'
import { plannedSessions } from '@/core/attendance/sessions'
import type { QueryOutput } from '@/server/registry'
import { Problem } from '@/ui/field'
import { RemoveButton, useDialogAct } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { tellServer } from '@/screen/server'
import { StudentPicker, type PickedStudent } from '@/screen/student-picker'
import type { Absence } from './planned-page'

interface Values {
  studentId: string
  firstDay: string
  lastDay: string
  sessions: (typeof plannedSessions)[number]
  codeId: string
  note: string
}

/** Enters an absence that is known beforehand, changes or removes it. */
export function PlannedDialog({
  edited,
  codes,
  date,
  onClose,
  onSaved,
}: {
  edited: Absence | undefined
  codes: QueryOutput<'attendance.planned'>['codes']
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [student, setStudent] = useState<PickedStudent | undefined>(
    edited && { id: edited.studentId, name: edited.name },
  )
  const own = edited && codes.some((c) => c.id === edited.codeId) ? edited.codeId : ''
  const of = useCommandForm('attendance.savePlanned', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.plannedInput),
    values: {
      studentId: edited?.studentId ?? '',
      firstDay: edited?.firstDay ?? date,
      lastDay: edited?.lastDay ?? date,
      sessions: edited?.sessions ?? 'whole day',
      codeId: own,
      note: edited?.note ?? '',
    } as Values,
    places: ['studentId', 'firstDay', 'lastDay', 'sessions', 'codeId', 'note'],
    input: (v: Values) => ({ ...v, plannedId: edited?.id ?? null, seen: edited?.version ?? 0 }),
    onSaved: (_, __, run) => onSaved(`The absence of ${student?.name ?? 'the student'} was saved.`, run),
  })
  const removal = useDialogAct(
    (key) =>
      tellServer(
        'attendance.removePlanned',
        { plannedId: edited?.id ?? '', seen: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`The planned absence of ${edited?.name} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={edited ? `Planned absence of ${edited.name}` : 'Add a planned absence'}
      save={edited ? 'Save' : 'Add'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      {!edited && (
        <StudentPicker
          label="Student"
          value={student}
          problem={of.problem('studentId')}
          onChange={(next) => {
            setStudent(next)
            of.form.setValue('studentId', next?.id ?? '')
          }}
        />
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={of} name="firstDay" label="First day" />
        <FormDate of={of} name="lastDay" label="Last day" />
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <FormSelect of={of} name="sessions" label="Sessions">
          {plannedSessions.map((s) => (
            <option key={s} value={s}>
              {s}
            </option>
          ))}
        </FormSelect>
        <FormSelect of={of} name="codeId" label="Code">
          <option value="">Choose a code</option>
          {codes.map((c) => (
            <option key={c.id} value={c.id}>
              {c.code} {c.label}
            </option>
          ))}
        </FormSelect>
      </div>
      <FormText of={of} name="note" label="Note" placeholder="Family visit, agreed by the head" />
    </DialogForm>
  )
}
