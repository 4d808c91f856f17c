'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { addDays } from '@/core/calendar/school-year'
import { checkPeriods, cycles } from '@/core/timetable/timetable'
import { Button } from '@/ui/button'
import { Problem } from '@/ui/field'
import { RemoveButton, useRemoval } from '@/screen/form/dialog-act'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormCell, FormDate, FormSelect, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { sendCommand } from '@/screen/server'
import type { Shown, Timetable } from './timetable'

interface Values {
  name: string
  firstDay: string
  lastDay: string
  cycle: (typeof cycles)[number]
  cycleDays: number
  periods: { starts: string; ends: string }[]
}

const cycleWords = { week: 'Every week', 'two weeks': 'Every two weeks', days: 'A number of days' } as const

/** The days, the cycle and the periods of a timetable. */
export function TimetableDialog({
  edited,
  like,
  periods,
  date,
  onClose,
  onSaved,
}: {
  edited: Timetable | undefined
  /** The timetable whose cycle and periods a new one begins with. */
  like: Timetable | undefined
  periods: Shown['periods']
  date: string
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('timetable.saveTimetable', {
    schema: () => import('@/core/timetable/inputs').then((m) => m.timetableInput),
    values: {
      name: edited?.name ?? '',
      firstDay: edited?.firstDay ?? (like ? addDays(date, 1) : date),
      lastDay: edited?.lastDay ?? '',
      cycle: like?.cycle ?? 'week',
      cycleDays: like?.cycleDays ?? 5,
      periods:
        periods.length > 0
          ? periods.map(({ starts, ends }) => ({ starts, ends }))
          : [{ starts: '08:50', ends: '09:40' }],
    } as Values,
    edited,
    places: ['name', 'firstDay', 'lastDay', 'cycle', 'cycleDays', 'periods'],
    input: (v: Values) => ({ ...v, timetableId: edited?.id ?? null, expectedVersion: edited?.version ?? 0 }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const removal = useRemoval(
    (key) =>
      sendCommand(
        'timetable.removeTimetable',
        { timetableId: edited?.id ?? '', expectedVersion: edited?.version ?? 0 },
        key,
      ),
    (run) => onSaved(`${edited?.name} was removed.`, run),
  )
  const { control } = of.form
  const rows = useFieldArray({ control, name: 'periods' })
  const typed = useWatch({ control, name: 'periods' })
  const cycle = useWatch({ control, name: 'cycle' })
  const wrong = checkPeriods(typed.map((p, i) => ({ ...p, number: i + 1 })))
  return (
    <DialogForm
      of={of}
      title={edited ? `Days and periods of ${edited.name}` : 'A new timetable'}
      save={edited ? 'Save' : 'Start this timetable'}
      onClose={onClose}
      more={edited && <RemoveButton of={removal} />}
    >
      {removal.problem && <Problem>{removal.problem}</Problem>}
      {!edited && like && (
        <p>
          {like.name} ends the day before this one begins. Lessons are entered anew: download those there are
          as CSV first, and read the file into the new timetable.
        </p>
      )}
      <FormText of={of} name="name" label="Name" placeholder="Autumn timetable" />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={of} name="firstDay" label="First day" />
        <FormDate of={of} name="lastDay" label="Last day, if it is known" />
        <FormSelect of={of} name="cycle" label="Repeats">
          {cycles.map((c) => (
            <option key={c} value={c}>
              {cycleWords[c]}
            </option>
          ))}
        </FormSelect>
        {cycle === 'days' && (
          <FormText of={of} name="cycleDays" label="School days in the cycle" number inputMode="numeric" />
        )}
      </div>
      <fieldset>
        <legend className="text-[13px] font-bold">Periods</legend>
        <ol className="grid gap-2">
          {rows.fields.map((row, i) => {
            const problem = wrong.find((p) => p.index === i)
            return (
              <li key={row.id}>
                <div className="flex items-center gap-3">
                  <span className="w-6 text-right">{i + 1}</span>
                  <div className="w-24">
                    <FormCell of={of} name={`periods.${i}.starts`} label={`Period ${i + 1} starts`} />
                  </div>
                  to
                  <div className="w-24">
                    <FormCell of={of} name={`periods.${i}.ends`} label={`Period ${i + 1} ends`} />
                  </div>
                  {i > 0 && i === rows.fields.length - 1 && (
                    <Button kind="quiet" onClick={() => rows.remove(i)}>
                      Remove<span className="sr-only"> period {i + 1}</span>
                    </Button>
                  )}
                </div>
                {problem && (
                  <p role="alert" className="ml-9 text-[13px] text-port">
                    <span aria-hidden>▲ </span>
                    {problem.message}
                  </p>
                )}
              </li>
            )
          })}
        </ol>
        <Theirs
          of={of}
          name="periods"
          label="the periods"
          words={(theirs) => theirs.map((p) => `${p.starts} to ${p.ends}`).join('; ')}
        />
        <p className="mt-2">
          <Button
            kind="plain"
            disabled={rows.fields.length >= 20}
            onClick={() => rows.append({ starts: typed.at(-1)?.ends ?? '', ends: '' })}
          >
            Add a period
          </Button>
        </p>
      </fieldset>
    </DialogForm>
  )
}
