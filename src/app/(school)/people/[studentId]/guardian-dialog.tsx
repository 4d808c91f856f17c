'use client'
import { languageName, languages } from '@/core/people/languages'
import { Problem } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText, FormTick } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { sendCommand } from '@/screen/server'
import type { Student } from './record'

type Guardian = Student['guardians'][number]

const valuesOf = (s: Student, g: Guardian | undefined) => ({
  givenName: g?.givenName ?? '',
  familyName: g?.familyName ?? s.fields.legalFamilyName,
  relation: g?.relation ?? '',
  email: g?.email ?? '',
  phone: g?.phone ?? '',
  language: g?.language ?? 'en',
  address: g?.address ?? s.fields.address ?? '',
  contactOrder: g ? s.guardians.indexOf(g) + 1 : s.guardians.length + 1,
  mayReceiveReports: g?.mayReceiveReports ?? true,
})

/** Adds a guardian to a student or corrects one; removing keeps the guardian's own record for siblings. */
export function GuardianDialog({
  s,
  guardian,
  onClose,
  onSaved,
}: {
  s: Student
  guardian: Guardian | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('people.saveGuardian', {
    schema: () => import('@/core/people/inputs').then((m) => m.guardianRecordInput),
    values: valuesOf(s, guardian),
    edited: guardian,
    places: Object.keys(valuesOf(s, guardian)),
    input: (v: ReturnType<typeof valuesOf>) => ({
      ...v,
      studentId: s.id,
      guardianId: guardian?.id ?? null,
      expectedVersion: guardian?.version ?? 0,
      expectedRelation: guardian?.relationVersion ?? 0,
    }),
    onSaved: (_, v, run) => onSaved(`${v.givenName} ${v.familyName} was saved.`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'people.removeGuardian',
        { studentId: s.id, guardianId: guardian?.id ?? '', expectedVersion: guardian?.relationVersion ?? 0 },
        key,
      ),
    (run) => onSaved(`${guardian?.givenName} ${guardian?.familyName} was removed.`, run),
  )
  const places = s.guardians.length + (guardian ? 0 : 1)
  return (
    <DialogForm
      of={of}
      title={guardian ? `${guardian.givenName} ${guardian.familyName}` : 'Add a guardian'}
      description={
        guardian?.alsoOf
          ? `Also guardian of ${guardian.alsoOf}: name, telephone, e-mail, language and address change there, too.`
          : undefined
      }
      wide
      onClose={onClose}
      more={guardian && <RemoveButton of={removal} from="this student" />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <div className="grid gap-4 sm:grid-cols-2">
        <FormText of={of} name="givenName" label="Given name" />
        <FormText of={of} name="familyName" label="Family name" />
        <FormText of={of} name="relation" label="Relation" placeholder="mother, grandfather, foster carer" />
        <FormSelect of={of} name="contactOrder" label="Order to call" number>
          {Array.from({ length: places }, (_, i) => (
            <option key={i} value={i + 1}>
              {['First', 'Second', 'Third'][i] ?? `${i + 1}th`}
            </option>
          ))}
        </FormSelect>
        <FormText of={of} name="phone" label="Telephone" />
        <FormText of={of} name="email" label="E-mail" type="email" />
        <FormText of={of} name="address" label="Address" />
        <FormSelect of={of} name="language" label="Language">
          {languages.map((code) => (
            <option key={code} value={code}>
              {languageName(code)}
            </option>
          ))}
        </FormSelect>
      </div>
      <FormTick of={of} name="mayReceiveReports" label="Receives reports" />
    </DialogForm>
  )
}
