'use client'
import { useWatch } from 'react-hook-form'
import { checkHolds, checkTerm, daysLost, movedAlong, movedWith } from '@/core/calendar/check-term'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate, schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText } from '@/screen/form/fields'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { useCommandForm } from '@/screen/form/use-command-form'
import { Problem } from '@/ui/field'
import { sendCommand } from '@/screen/server'
import { Touched } from './touched'
import type { Calendar, Days } from './year'

type Term = Calendar['terms'][number]

/** Adds a term or changes its days. Says first what lies on days that it would lose. */
export function TermDialog({
  year,
  terms,
  edited,
  periods,
  days: chosen,
  onClose,
  onSaved,
}: {
  year: SchoolYear
  terms: readonly Term[]
  edited: Term | undefined
  /** The marking and exam periods that lie in it. */
  periods: Calendar['periods']
  /** Days that were chosen on the drawing or typed into the table. */
  days?: Days
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.saveTerm', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.termInput),
    values: {
      name: edited?.name ?? '',
      firstDay: edited?.firstDay ?? '',
      lastDay: edited?.lastDay ?? '',
    },
    edited,
    typed: chosen,
    places: ['name', 'firstDay', 'lastDay'],
    input: (v: { name: string; firstDay: string; lastDay: string }) => ({
      ...v,
      termId: edited?.id ?? null,
      expectedVersion: edited?.version ?? 0,
      yearId: year.id,
    }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'year.removeTerm',
        { termId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${edited?.name} was removed.`, run),
  )
  const [firstDay, lastDay] = useWatch({ control: of.form.control, name: ['firstDay', 'lastDay'] })
  const dated = isCivilDate(firstDay) && isCivilDate(lastDay)
  const others = terms.filter((t) => t !== edited)
  const wrong = dated
    ? [
        ...checkTerm(year, others, { firstDay, lastDay }),
        ...checkHolds(edited ? movedAlong(periods, edited, { firstDay, lastDay }) : [], {
          firstDay,
          lastDay,
        }),
      ]
    : []
  const problem = (path: string) => wrong.find((p) => p.path === path)?.message ?? of.problem(path)
  const right = dated && wrong.length === 0
  const days = right
    ? schoolDays({ ...year, terms: [{ id: '', name: '', firstDay, lastDay }] }, firstDay, lastDay).length
    : 0
  return (
    <DialogForm
      of={of}
      title={edited ? edited.name : 'Add a term'}
      save={edited ? 'Save' : 'Add'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      <FormText of={of} name="name" label="Name" placeholder="Spring" />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={{ ...of, problem }} name="firstDay" label="First day" />
        <FormDate of={{ ...of, problem }} name="lastDay" label="Last day" />
      </div>
      <div role="status" className="min-h-5 text-[13px]">
        {right && (
          <p className={days === 0 ? 'text-port' : 'text-muted'}>
            {days === 0
              ? 'This term has no school day.'
              : days === 1
                ? '1 school day.'
                : `${days} school days.`}
          </p>
        )}
        {right &&
          edited &&
          movedWith(periods, edited, { firstDay, lastDay }).map((p) => (
            <p key={p.id}>
              <strong>{p.name}</strong> moves with it: {shortDate(p.firstDay)} to {shortDate(p.lastDay)}.
            </p>
          ))}
        {right &&
          edited &&
          daysLost(edited, { firstDay, lastDay }).map((span) => (
            <Touched key={span.firstDay} {...span} where={`On the days that ${edited.name} loses`} />
          ))}
      </div>
    </DialogForm>
  )
}
