'use client'
import { useRouter } from 'next/navigation'
import { useFieldArray, useWatch } from 'react-hook-form'
import { checkYear, usualYear } from '@/core/calendar/check-year'
import { shortDate } from '@/core/calendar/date-words'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { Button } from '@/ui/button'
import { Field, Problem, TextInput } from '@/ui/field'
import { FormDate, FormProblems } from '@/screen/form/fields'
import { useCommandForm } from '@/screen/form/use-command-form'
import { YearEditor } from '@/ui/year-line/year-editor'
import { SchoolDayCounts } from './tables'
import { WeekdayTicks } from './weekday-ticks'

type Typed = ReturnType<typeof usualYear>

const asYear = (typed: Typed): SchoolYear => ({
  ...typed,
  id: '',
  terms: typed.terms.map((t, i) => ({ ...t, id: String(i) })),
  closures: [],
})

/** What would be created, as it stands: drawn, and with its school days. */
function Review({ year }: { year: SchoolYear }) {
  return (
    <section aria-labelledby="review" className="grid gap-3 border-t border-rule pt-4">
      <h2 id="review">What will be created</h2>
      <YearEditor
        firstDay={year.firstDay}
        lastDay={year.lastDay}
        parts={year.terms.map((t) => ({ ...t, key: t.id, look: 'water' }))}
        labelOf={(day) => shortDate(day)}
      />
      <ul className="grid gap-1">
        {year.terms.map((t) => (
          <li key={t.id}>
            <strong>{t.name}</strong>: {shortDate(t.firstDay, true)} to {shortDate(t.lastDay, true)},{' '}
            {schoolDays(year, t.firstDay, t.lastDay).length} school days
          </li>
        ))}
      </ul>
      <SchoolDayCounts year={year} />
      <p className="text-[13px] text-muted">
        Breaks, holidays and staff-only days are added once the year exists, and change these numbers.
      </p>
    </section>
  )
}

/** The first step of an empty school: its academic year and terms. What does not fit is said while it is typed. */
export function NewYear({ today, onSaved }: { today: string; onSaved: (name: string) => void }) {
  const router = useRouter()
  const of = useCommandForm('year.create', {
    schema: () =>
      import('@/core/calendar/inputs').then(({ yearInput }) =>
        yearInput.superRefine((year, context) => {
          for (const { path, message } of checkYear(year))
            context.addIssue({ code: 'custom', path: path.split('.'), message })
        }),
      ),
    values: usualYear(today),
    places: ['name', 'firstDay', 'lastDay', 'weekdays', 'terms'],
    onSaved: (_, { name }) => {
      router.refresh()
      onSaved(name)
    },
  })
  const { control, register, setValue } = of.form
  const year = useWatch({ control }) as Typed
  const terms = useFieldArray({ control, name: 'terms' })
  const problems = new Map(checkYear(year).map((p) => [p.path, p.message]))
  const problem = (path: string) => problems.get(path) ?? of.problem(path)
  return (
    <form onSubmit={of.submit} noValidate className="grid gap-5">
      <p>A usual year is filled in: change what is different at your school.</p>
      <FormProblems of={of} summary />
      <div className="grid gap-4 sm:grid-cols-3">
        <Field label="Name" problem={problem('name')}>
          {(field) => <TextInput {...field} {...register('name')} />}
        </Field>
        <FormDate of={{ ...of, problem }} name="firstDay" label="First day" />
        <FormDate of={{ ...of, problem }} name="lastDay" label="Last day" />
      </div>
      <WeekdayTicks
        chosen={year.weekdays}
        problem={problem('weekdays')}
        onChange={(next) => setValue('weekdays', next)}
      />
      <fieldset className="grid gap-2">
        <legend className="text-[13px] font-bold">Terms</legend>
        {problem('terms') && <Problem>{problem('terms')}</Problem>}
        {terms.fields.map((term, i) => (
          <div key={term.id} className="grid items-start gap-2 sm:grid-cols-[1fr_1fr_1fr_auto]">
            <TextInput aria-label={`Name of term ${i + 1}`} {...register(`terms.${i}.name`)} />
            <FormDate
              of={of}
              bare
              name={`terms.${i}.firstDay`}
              label={`First day of ${year.terms[i]?.name}`}
            />
            <FormDate of={of} bare name={`terms.${i}.lastDay`} label={`Last day of ${year.terms[i]?.name}`} />
            <Button kind="quiet" onClick={() => terms.remove(i)}>
              Remove<span className="sr-only"> {year.terms[i]?.name}</span>
            </Button>
            {problem(`terms.${i}`) && (
              <p role="alert" className="text-[13px] text-port sm:col-span-4">
                <span aria-hidden>▲ </span>
                {problem(`terms.${i}`)}
              </p>
            )}
          </div>
        ))}
        <p>
          <Button
            kind="plain"
            disabled={terms.fields.length >= 6}
            onClick={() => terms.append({ name: '', firstDay: '', lastDay: '' })}
          >
            Add a term
          </Button>
        </p>
      </fieldset>
      {problems.size === 0 && <Review year={asYear(year)} />}
      <p>
        <Button type="submit" busy={of.busy}>
          Create academic year
        </Button>
      </p>
    </form>
  )
}
