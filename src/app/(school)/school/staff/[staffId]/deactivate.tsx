'use client'
import { spokenName } from '@/core/people/names'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect } from '@/screen/form/fields'
import { useAtOpening } from '@/screen/form/use-opened'
import { useCommandForm } from '@/screen/form/use-command-form'
import { useAnswer } from '@/screen/use-live'
import { Tick } from '@/ui/field'
import type { Member } from './member'

interface Values {
  lastDay: string
  atOnce: boolean
  successorId: string
}

/** Ends somebody's work at the school; says first what the person is still responsible for, and who takes it over. */
export function Deactivate({
  m: live,
  today,
  onClose,
  onSaved,
}: {
  m: Member
  today: string
  onClose: () => void
  onSaved: (run: string | undefined, atOnce: boolean) => void
}) {
  const m = useAtOpening(live)
  const name = spokenName(m.name)
  const { answer: staff } = useAnswer('staffing.list', { date: today })
  const of = useCommandForm('staffing.deactivate', {
    schema: () => import('@/core/people/inputs').then((x) => x.deactivateInput),
    values: { lastDay: today, atOnce: false, successorId: '' } as Values,
    places: ['lastDay', 'successorId'],
    input: (v: Values) => ({ ...v, staffId: m.id, expectedVersion: m.version }),
    onSaved: (_, { atOnce }, run) => onSaved(run, atOnce ?? true),
  })
  const others = staff?.filter((s) => s.id !== m.id && s.active)
  return (
    <DialogForm
      of={of}
      title={`Deactivate ${name}`}
      description="After the last day they cannot sign in. Their name stays wherever it is in the history, and the account can be reactivated."
      save="Deactivate"
      onClose={onClose}
    >
      <FormDate of={of} name="lastDay" label="Last day" />
      <Tick label="Sign them out now" detail="the account closes at once" {...of.form.register('atOnce')} />
      {m.responsible.length > 0 && (
        <>
          <p>
            <strong>Still responsible for:</strong> {m.responsible.map((d) => d.name).join(', ')}.
          </p>
          <FormSelect of={of} name="successorId" label="Taken over after the last day by">
            <option value="">Nobody: these have one teacher fewer</option>
            {others?.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </FormSelect>
        </>
      )}
    </DialogForm>
  )
}
