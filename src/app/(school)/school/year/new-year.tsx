'use client'
import { useFieldArray, useWatch } from 'react-hook-form'
import { checkYear, closureKinds, usualYear } from '@/core/calendar/check-year'
import { shortDate } from '@/core/calendar/date-words'
import { schoolDays, type SchoolYear } from '@/core/calendar/school-year'
import { Button } from '@/ui/button'
import { Field, Problem, Select, TextInput } from '@/ui/field'
import { FormDate, FormProblems } from '@/screen/form/fields'
import { useGo } from '@/screen/go'
import { useCommandForm } from '@/screen/form/use-command-form'
import { YearEditor } from '@/ui/year-line/year-editor'
import { closureWords } from './closure-words'
import { SchoolDayCounts } from './tables'
import { WeekdayTicks } from './weekday-ticks'

type Typed = ReturnType<typeof usualYear>

const asYear = (typed: Typed): SchoolYear => ({
  ...typed,
  id: '',
  terms: typed.terms.map((t, i) => ({ ...t, id: String(i) })),
})

/** What would be created, as it stands: drawn, and with its school days. */
function Review({ year }: { year: SchoolYear }) {
  return (
    <section aria-labelledby="review" className="grid gap-3 border-t border-rule pt-4">
      <h2 id="review">What will be created</h2>
      <YearEditor
        firstDay={year.firstDay}
        lastDay={year.lastDay}
        parts={[
          ...year.terms.map((t) => ({ ...t, key: t.id, look: 'water' as const })),
          ...year.closures.map((c, i) => ({ ...c, key: `closure ${i}`, look: 'land' as const })),
        ]}
        labelOf={(day) => shortDate(day)}
      />
      <ul className="grid gap-1">
        {year.terms.map((t) => (
          <li key={t.id}>
            <strong>{t.name}</strong>: {shortDate(t.firstDay, true)} to {shortDate(t.lastDay, true)},{' '}
            {schoolDays(year, t.firstDay, t.lastDay).length} school days
          </li>
        ))}
        {year.closures.map((c) => (
          <li key={c.firstDay}>
            {c.name}: {shortDate(c.firstDay, true)}
            {c.lastDay !== c.firstDay && ` to ${shortDate(c.lastDay, true)}`}, no school
          </li>
        ))}
      </ul>
      <SchoolDayCounts year={year} />
      {year.closures.length === 0 && (
        <p className="text-[13px] text-muted">
          No breaks, holidays or staff-only days are entered. You can add them later; they change these
          numbers.
        </p>
      )}
    </section>
  )
}

/** What is wrong with a row of fields, under it. */
function RowProblem({ children }: { children: string | undefined }) {
  if (!children) return null
  return (
    <p role="alert" className="col-span-full text-[13px] text-port">
      <span aria-hidden>▲ </span>
      {children}
    </p>
  )
}

/** The first step of an empty school: its academic year and terms. What does not fit is said while it is typed. */
export function NewYear({ today, onSaved }: { today: string; onSaved: (name: string) => void }) {
  const go = useGo()
  const of = useCommandForm('year.create', {
    schema: () =>
      import('@/core/calendar/inputs').then(({ yearInput }) =>
        yearInput.superRefine((year, context) => {
          for (const { path, message } of checkYear(year))
            context.addIssue({ code: 'custom', path: path.split('.'), message })
        }),
      ),
    values: usualYear(today),
    places: ['name', 'firstDay', 'lastDay', 'weekdays', 'terms', 'closures'],
    onSaved: (_, { name }) => {
      go.refresh()
      onSaved(name)
    },
  })
  const { control, register, setValue } = of.form
  const year = useWatch({ control }) as Typed
  const terms = useFieldArray({ control, name: 'terms' })
  const closures = useFieldArray({ control, name: 'closures' })
  const problems = new Map(checkYear(year).map((p) => [p.path, p.message]))
  const problem = (path: string) => problems.get(path) ?? of.problem(path)
  return (
    <form method="post" onSubmit={of.submit} noValidate className="grid gap-5">
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
            <RowProblem>{problem(`terms.${i}`)}</RowProblem>
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
      <fieldset className="grid gap-2">
        <legend className="text-[13px] font-bold">Days without school</legend>
        {closures.fields.map((days, i) => {
          const name = year.closures[i]?.name || `row ${i + 1}`
          return (
            <div key={days.id} className="grid items-start gap-2 sm:grid-cols-[9rem_1fr_1fr_1fr_auto]">
              <Select aria-label={`Kind of ${name}`} {...register(`closures.${i}.kind`)}>
                {closureKinds.map((kind) => (
                  <option key={kind} value={kind}>
                    {closureWords[kind]}
                  </option>
                ))}
              </Select>
              <TextInput
                aria-label={`Name of row ${i + 1}`}
                placeholder="Autumn break"
                {...register(`closures.${i}.name`)}
              />
              <FormDate of={of} bare name={`closures.${i}.firstDay`} label={`First day of ${name}`} />
              <FormDate of={of} bare name={`closures.${i}.lastDay`} label={`Last day of ${name}`} />
              <Button kind="quiet" onClick={() => closures.remove(i)}>
                Remove<span className="sr-only"> {name}</span>
              </Button>
              <RowProblem>{problem(`closures.${i}`)}</RowProblem>
            </div>
          )
        })}
        <p>
          <Button
            kind="plain"
            disabled={closures.fields.length >= 60}
            onClick={() => closures.append({ kind: 'break', name: '', firstDay: '', lastDay: '' })}
          >
            Add days without school
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
