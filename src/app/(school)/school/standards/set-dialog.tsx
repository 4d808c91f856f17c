'use client'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { Set, Sets } from './sets'

interface Values {
  readonly name: string
  readonly subjectId: string
}

/** Creates a set of standards, or changes its name and subject. */
export function SetDialog({
  server,
  set,
  onClose,
  onSaved,
}: {
  server: Sets
  set: Set | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined, setId?: string) => void
}) {
  const opened = useAtOpening(set)
  const edited = opened && server.sets.find((s) => s.id === opened.id)
  const named = { setId: opened?.id ?? '', expectedVersion: edited?.version ?? 0 }
  const shared = {
    schema: () => import('@/core/assessment/standard-inputs').then((m) => m.standardSetInput),
    values: { name: edited?.name ?? '', subjectId: edited?.subjectId ?? '' } as Values,
    places: ['name', 'subjectId'],
  }
  const chosen = ({ name, subjectId }: Values) => ({ name, subjectId: subjectId || null })
  const creating = useCommandForm('assessment.createStandardSet', {
    ...shared,
    input: chosen,
    onSaved: ({ setId }, { name }, run) => onSaved(`${name} was added.`, run, setId),
  })
  const editing = useCommandForm('assessment.saveStandardSet', {
    ...shared,
    edited,
    input: (values: Values) => ({ ...named, ...chosen(values) }),
    onSaved: (_saved, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const of = opened ? editing : creating
  const removal = useRemoval(
    (key) => sendCommand('assessment.removeStandardSet', named, key),
    (run) => onSaved(`${opened?.name ?? ''} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={opened?.name ?? 'Add a set of standards'}
      save={opened ? 'Save' : 'Add'}
      onClose={onClose}
      more={opened && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" autoFocus />
      <FormSelect
        of={of}
        name="subjectId"
        label="Subject"
        help="Its questions are offered these standards first."
      >
        <option value="">all subjects</option>
        {server.subjects.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </FormSelect>
    </DialogForm>
  )
}
