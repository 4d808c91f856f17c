'use client'
import { useState } from 'react'
import { useWatch } from 'react-hook-form'
import { plannedSessions } from '@/core/attendance/sessions'
import type { QueryOutput } from '@/server/registry'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import { StudentPicker, type PickedStudent } from '@/screen/student-picker'
import type { Absence } from './planned'
import type { Reported } from './planned'

interface Values {
  studentId: string
  firstDay: string
  lastDay: string
  sessions: (typeof plannedSessions)[number]
  firstPeriod: number
  lastPeriod: number
  codeId: string
  note: string
}

/** Enters an absence that is known beforehand, changes or removes it. */
export function PlannedDialog({
  edited,
  reported,
  codes,
  date,
  onClose,
  onSaved,
}: {
  edited: Absence | undefined
  reported: Reported | undefined
  codes: QueryOutput<'attendance.planned'>['codes']
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [student, setStudent] = useState<PickedStudent | undefined>(
    edited
      ? { id: edited.studentId, name: edited.name }
      : reported && { id: reported.studentId, name: reported.student },
  )
  const own = edited && codes.some((c) => c.id === edited.codeId) ? edited.codeId : ''
  const of = useCommandForm('attendance.savePlanned', {
    schema: () => import('@/core/attendance/inputs').then((m) => m.plannedInput),
    values: {
      studentId: edited?.studentId ?? reported?.studentId ?? '',
      firstDay: edited?.firstDay ?? reported?.firstDay ?? date,
      lastDay: edited?.lastDay ?? reported?.lastDay ?? date,
      sessions: edited?.sessions ?? reported?.sessions ?? 'whole day',
      firstPeriod: edited?.firstPeriod ?? 1,
      lastPeriod: edited?.lastPeriod ?? 1,
      codeId: own,
      note: edited?.note ?? reported?.reason ?? '',
    } as Values,
    edited: edited ?? reported,
    places: ['studentId', 'firstDay', 'lastDay', 'sessions', 'firstPeriod', 'lastPeriod', 'codeId', 'note'],
    input: (v: Values) => ({
      ...v,
      // A field that is not shown holds nothing that counts.
      firstPeriod: v.sessions === 'lessons' ? v.firstPeriod : null,
      lastPeriod: v.sessions === 'lessons' ? v.lastPeriod : null,
      plannedId: edited?.id ?? null,
      expectedVersion: edited?.version ?? 0,
      report: reported ? { reportId: reported.id, expectedVersion: reported.version } : null,
    }),
    onSaved: (_, __, run) => onSaved(`The absence of ${student?.name ?? 'the student'} was saved.`, run),
  })
  const which = useWatch({ control: of.form.control, name: 'sessions' })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'attendance.removePlanned',
        { plannedId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`The planned absence of ${edited?.name} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={
        edited
          ? `Planned absence of ${edited.name}`
          : reported
            ? `Absence of ${reported.student}`
            : 'Add a planned absence'
      }
      description={
        reported ? `Reported by ${reported.guardian}. Choose a code to enter it in the registers.` : undefined
      }
      save={edited ? 'Save' : reported ? 'Confirm' : 'Add'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      {!edited && !reported && (
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
              {s === 'lessons' ? 'certain lessons' : s}
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
      {which === 'lessons' && (
        <div className="grid gap-4 sm:grid-cols-2">
          <FormText of={of} name="firstPeriod" label="From period" number inputMode="numeric" />
          <FormText of={of} name="lastPeriod" label="To period" number inputMode="numeric" />
        </div>
      )}
      <FormText of={of} name="note" label="Note" placeholder="Family visit, agreed by the head" />
    </DialogForm>
  )
}
