'use client'
import { useWatch } from 'react-hook-form'
import { checkClosure } from '@/core/calendar/check-closure'
import { isCivilDate, schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { Problem } from '@/ui/field'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { sendCommand } from '@/screen/server'
import { closureWords } from './closure-words'
import { Touched } from './touched'
import type { Calendar, Days } from './year'

type Closure = Calendar['closures'][number]
type Kind = Closure['kind']

/** Adds days without school, moves or removes them. Says first what already lies on these days. */
export function ClosureDialog({
  year,
  closures,
  edited,
  days,
  date,
  onClose,
  onSaved,
}: {
  year: SchoolYear
  closures: readonly Closure[]
  edited: Closure | undefined
  /** Days that were chosen on the drawing or typed into the table. */
  days?: Days
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.saveClosure', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.closureInput),
    values: {
      kind: edited?.kind ?? ('holiday' as Kind),
      name: edited?.name ?? '',
      firstDay: edited?.firstDay ?? date,
      lastDay: edited?.lastDay ?? date,
    },
    edited,
    typed: days,
    places: ['kind', 'name', 'firstDay', 'lastDay'],
    input: (v: { kind: Kind; name: string; firstDay: string; lastDay: string }) => ({
      ...v,
      closureId: edited?.id ?? null,
      expectedVersion: edited?.version ?? 0,
      yearId: year.id,
    }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const [firstDay, lastDay] = useWatch({ control: of.form.control, name: ['firstDay', 'lastDay'] })
  const dated = isCivilDate(firstDay) && isCivilDate(lastDay)
  const others = closures.filter((c) => c !== edited)
  const wrong = dated ? checkClosure(year, others, { firstDay, lastDay }) : []
  const problem = (path: string) => wrong.find((p) => p.path === path)?.message ?? of.problem(path)
  const lost =
    dated && wrong.length === 0 ? schoolDays({ ...year, closures: others }, firstDay, lastDay).length : 0
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'year.removeClosure',
        { closureId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${edited?.name} was removed.`, run),
  )
  return (
    <DialogForm
      of={of}
      title={edited ? edited.name : 'Add days without school'}
      save={edited ? 'Save' : 'Add'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormSelect of={of} name="kind" label="Kind">
        {Object.entries(closureWords).map(([kind, title]) => (
          <option key={kind} value={kind}>
            {title}
          </option>
        ))}
      </FormSelect>
      <FormText of={of} name="name" label="Name" placeholder="Founders’ Day" />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={{ ...of, problem }} name="firstDay" label="First day" />
        <FormDate of={{ ...of, problem }} name="lastDay" label="Last day" />
      </div>
      <div role="status" className="min-h-5 text-[13px]">
        {dated && wrong.length === 0 && (
          <p className="text-muted">
            {lost === 1
              ? '1 school day becomes a day without school.'
              : `${lost} school days become days without school.`}
          </p>
        )}
        {dated && wrong.length === 0 && (
          <Touched firstDay={firstDay} lastDay={lastDay} where="On these days" />
        )}
      </div>
    </DialogForm>
  )
}
