'use client'
import { useWatch } from 'react-hook-form'
import { checkPeriod } from '@/core/calendar/check-period'
import { isCivilDate, schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import { Problem } from '@/ui/field'
import type { Calendar, Days } from './year'

type Period = Calendar['periods'][number]

interface Values {
  termId: string
  kind: Period['kind']
  name: string
  firstDay: string
  lastDay: string
}

/** Adds a marking or exam period to a term, moves or removes it. */
export function PeriodDialog({
  year,
  terms,
  periods,
  edited,
  days,
  onClose,
  onSaved,
}: {
  year: SchoolYear
  terms: Calendar['terms']
  periods: readonly Period[]
  edited: Period | undefined
  /** Days that were chosen on the drawing or typed into the table. */
  days?: Days
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const [first] = terms
  const of = useCommandForm('year.savePeriod', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.periodInput),
    values: {
      termId: edited?.termId ?? first?.id ?? '',
      kind: edited?.kind ?? 'marking',
      name: edited?.name ?? '',
      firstDay: edited?.firstDay ?? first?.firstDay ?? '',
      lastDay: edited?.lastDay ?? '',
    } as Values,
    edited,
    typed: days,
    places: ['termId', 'kind', 'name', 'firstDay', 'lastDay'],
    input: (v: Values) => ({ ...v, periodId: edited?.id ?? null, expectedVersion: edited?.version ?? 0 }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'year.removePeriod',
        { periodId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${edited?.name} was removed.`, run),
  )
  const { control, setValue } = of.form
  const [termId, kind, firstDay, lastDay] = useWatch({
    control,
    name: ['termId', 'kind', 'firstDay', 'lastDay'],
  })
  const term = terms.find((t) => t.id === termId)
  const dated = isCivilDate(firstDay) && isCivilDate(lastDay)
  const others = periods.filter((p) => p.id !== edited?.id && p.kind === kind)
  const wrong = dated && term ? checkPeriod(term, others, { firstDay, lastDay }) : []
  const problem = (path: string) => wrong.find((p) => p.path === path)?.message ?? of.problem(path)
  const count = dated && wrong.length === 0 ? schoolDays(year, firstDay, lastDay).length : undefined
  return (
    <DialogForm
      of={of}
      title={edited ? edited.name : 'Add a period'}
      description="A marking period is a part of a term with marks of its own, such as a half. An exam period is when exams are sat."
      save={edited ? 'Save' : 'Add'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <div className="grid gap-4 sm:grid-cols-2">
        <FormSelect of={of} name="kind" label="Kind">
          <option value="marking">Marking period</option>
          <option value="exams">Exam period</option>
        </FormSelect>
        <FormSelect
          of={of}
          name="termId"
          label="Term"
          onChange={(e) => {
            const chosen = terms.find((t) => t.id === e.target.value)
            if (chosen && !edited) setValue('firstDay', chosen.firstDay)
          }}
        >
          {terms.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </FormSelect>
      </div>
      <FormText of={of} name="name" label="Name" placeholder="First half" />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={{ ...of, problem }} name="firstDay" label="First day" />
        <FormDate of={{ ...of, problem }} name="lastDay" label="Last day" />
      </div>
      <p role="status" className={`min-h-5 text-[13px] ${count === 0 ? 'text-port' : 'text-muted'}`}>
        {count !== undefined && (count === 1 ? '1 school day.' : `${count} school days.`)}
      </p>
    </DialogForm>
  )
}
