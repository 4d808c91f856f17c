'use client'
import { useWatch } from 'react-hook-form'
import { checkYearDays } from '@/core/calendar/check-term'
import { isCivilDate, type SchoolYear, type Span } from '@/core/calendar/school-year'
import { weekdayName } from '@/core/calendar/date-words'
import { DialogForm } from '@/screen/form/dialog-form'
import { FormDate, FormText } from '@/screen/form/fields'
import { Theirs } from '@/screen/form/theirs'
import { useCommandForm } from '@/screen/form/use-command-form'
import { WeekdayTicks } from './weekday-ticks'

/** Changes the name, the days and the working week of a year that exists. */
export function YearDialog({
  year,
  version,
  parts,
  others,
  onClose,
  onSaved,
}: {
  year: SchoolYear
  version: number
  /** Its terms and closures, which must stay inside it. */
  parts: readonly Span[]
  others: readonly Span[]
  onClose: () => void
  onSaved: (words: string, run: string | undefined) => void
}) {
  const of = useCommandForm('year.saveYear', {
    schema: () => import('@/core/calendar/inputs').then((m) => m.yearDaysInput),
    values: {
      name: year.name,
      firstDay: year.firstDay,
      lastDay: year.lastDay,
      weekdays: [...year.weekdays],
    },
    edited: { version },
    places: ['name', 'firstDay', 'lastDay', 'weekdays'],
    input: (v: { name: string; firstDay: string; lastDay: string; weekdays: number[] }) => ({
      ...v,
      yearId: year.id,
      expectedVersion: version,
    }),
    onSaved: (_, { name }, run) => onSaved(`${name} was saved.`, run),
  })
  const [firstDay, lastDay, weekdays] = useWatch({
    control: of.form.control,
    name: ['firstDay', 'lastDay', 'weekdays'],
  })
  const dated = isCivilDate(firstDay) && isCivilDate(lastDay)
  const wrong = dated ? checkYearDays(parts, others, { firstDay, lastDay }) : []
  const problem = (path: string) => wrong.find((p) => p.path === path)?.message ?? of.problem(path)
  return (
    <DialogForm of={of} title={`Academic year ${year.name}`} onClose={onClose}>
      <FormText of={of} name="name" label="Name" />
      <div className="grid gap-4 sm:grid-cols-2">
        <FormDate of={{ ...of, problem }} name="firstDay" label="First day" />
        <FormDate of={{ ...of, problem }} name="lastDay" label="Last day" />
      </div>
      <WeekdayTicks
        chosen={weekdays}
        problem={of.problem('weekdays')}
        onChange={(next) => of.form.setValue('weekdays', next, { shouldDirty: true })}
      />
      <Theirs
        of={of}
        name="weekdays"
        label="the days of school"
        words={(theirs) => theirs.map(weekdayName).join(', ')}
      />
    </DialogForm>
  )
}
