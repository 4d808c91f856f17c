'use client'
import { standardName } from '@/core/assessment/standards'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormSelect, FormText, FormTextArea } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { Set, Standard } from './sets'

interface Values {
  readonly code: string
  readonly statement: string
  readonly parentId: string
  readonly years: string
}

/** Adds a standard to a set, or changes one. */
export function StandardDialog({
  set,
  standard,
  onClose,
  onSaved,
}: {
  set: Set
  standard: Standard | undefined
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const opened = useAtOpening(standard)
  const now = opened && set.standards.find((s) => s.id === opened.id)
  const named = { setId: set.id, expectedVersion: set.version }
  const shared = {
    schema: () => import('@/core/assessment/standard-inputs').then((m) => m.standardInput),
    values: {
      code: now?.code ?? '',
      statement: now?.statement ?? '',
      parentId: now?.parentId ?? '',
      years: now?.years.join(' ') ?? '',
    } as Values,
    places: ['code', 'statement', 'parentId', 'years'],
  }
  const input = ({ code, statement, parentId, years }: Values) => ({
    ...named,
    code: code || null,
    statement,
    parentId: parentId || null,
    years: years.split(/[\s,]+/).filter(Boolean),
  })
  const adding = useCommandForm('assessment.addStandard', {
    ...shared,
    input,
    onSaved: (_saved, { code, statement }, run) => onSaved(`${code || statement} was added.`, run),
  })
  const editing = useCommandForm('assessment.saveStandard', {
    ...shared,
    edited: opened && now && { version: set.version },
    input: (values: Values) => ({ ...input(values), standardId: opened?.id ?? '' }),
    onSaved: (_saved, { code, statement }, run) => onSaved(`${code || statement} was saved.`, run),
  })
  const of = opened ? editing : adding
  const name = opened ? standardName(opened) : ''
  const removal = useRemoval(
    (key) => sendCommand('assessment.removeStandard', { ...named, standardId: opened?.id ?? '' }, key),
    (run) => onSaved(`${name} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={opened ? name : 'Add a standard'}
      save={opened ? 'Save' : 'Add'}
      onClose={onClose}
      more={opened && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <div className="grid grid-cols-2 gap-4">
        <FormText of={of} name="code" label="Code" autoFocus />
        <FormText of={of} name="years" label="Years" help="Such as 07 08; empty for all." />
      </div>
      <FormTextArea of={of} name="statement" label="Statement" rows={3} />
      <FormSelect of={of} name="parentId" label="Under">
        <option value="">the top of the set</option>
        {set.standards
          .filter((s) => s.id !== opened?.id)
          .map((s) => (
            <option key={s.id} value={s.id}>
              {`${'\u2003'.repeat(s.depth)}${standardName(s).slice(0, 80)}`}
            </option>
          ))}
      </FormSelect>
    </DialogForm>
  )
}
