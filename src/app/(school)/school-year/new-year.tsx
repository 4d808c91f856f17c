'use client'
import { useRouter } from 'next/navigation'
import { useRef, useState, type FormEvent } from 'react'
import { checkYear } from '@/core/calendar/check-year'
import { Button } from '@/ui/button'
import { Field, Problem, TextInput, Tick } from '@/ui/field'
import { DateInput } from '@/screen/date-input'
import { newKey, tellServer } from '@/screen/server'

const dayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

/** The first step of an empty school: its academic year and terms. What does not fit is said as it is entered. */
export function NewYear({ today }: { today: string }) {
  const router = useRouter()
  const september = today.slice(5) >= '07-01' ? Number(today.slice(0, 4)) : Number(today.slice(0, 4)) - 1
  const next = september + 1
  const [year, setYear] = useState({
    name: `${september}/${String(next).slice(2)}`,
    firstDay: `${september}-09-01`,
    lastDay: `${next}-07-15`,
    weekdays: [1, 2, 3, 4, 5],
    terms: [
      { name: 'Autumn', firstDay: `${september}-09-01`, lastDay: `${september}-12-18` },
      { name: 'Spring', firstDay: `${next}-01-05`, lastDay: `${next}-03-31` },
      { name: 'Summer', firstDay: `${next}-04-15`, lastDay: `${next}-07-15` },
    ],
  })
  const [failure, setFailure] = useState<string>()
  const [busy, setBusy] = useState(false)
  const key = useRef(newKey())
  const problems = checkYear(year)
  const problem = (path: string) => problems.find((p) => p.path === path)?.message
  const changeTerm = (i: number, part: Partial<(typeof year.terms)[number]>) =>
    setYear({ ...year, terms: year.terms.map((t, at) => (at === i ? { ...t, ...part } : t)) })
  async function submit(event: FormEvent) {
    event.preventDefault()
    if (problems.length > 0) return setFailure('Some days do not fit yet; the fields say which.')
    setBusy(true)
    const result = await tellServer('year.create', year, key.current)
    setBusy(false)
    if (!result.ok) {
      key.current = newKey()
      return setFailure(result.failure.message)
    }
    router.refresh()
  }
  return (
    <form onSubmit={(e) => void submit(e)} noValidate className="grid gap-5">
      <p>
        Make the academic year first; year groups and homerooms come next. A usual year is filled in: change
        what is different at your school.
      </p>
      {failure && <Problem>{failure}</Problem>}
      <div className="grid gap-4 sm:grid-cols-3">
        <Field label="Name" problem={problem('name')}>
          {(f) => (
            <TextInput
              {...f}
              value={year.name}
              onChange={(e) => setYear({ ...year, name: e.target.value })}
            />
          )}
        </Field>
        <Field label="First day" problem={problem('firstDay')}>
          {(f) => (
            <DateInput {...f} value={year.firstDay} onChange={(firstDay) => setYear({ ...year, firstDay })} />
          )}
        </Field>
        <Field label="Last day" problem={problem('lastDay')}>
          {(f) => (
            <DateInput {...f} value={year.lastDay} onChange={(lastDay) => setYear({ ...year, lastDay })} />
          )}
        </Field>
      </div>
      <fieldset>
        <legend className="text-[13px] font-bold">School is held on</legend>
        <div className="flex flex-wrap gap-x-5">
          {dayNames.map((name, i) => (
            <Tick
              key={name}
              label={name}
              checked={year.weekdays.includes(i + 1)}
              onChange={(e) =>
                setYear({
                  ...year,
                  weekdays: e.target.checked
                    ? [...year.weekdays, i + 1].sort()
                    : year.weekdays.filter((d) => d !== i + 1),
                })
              }
            />
          ))}
        </div>
      </fieldset>
      <fieldset className="grid gap-2">
        <legend className="text-[13px] font-bold">Terms</legend>
        {problem('terms') && <Problem>{problem('terms')}</Problem>}
        {year.terms.map((t, i) => (
          <div key={i} className="grid items-start gap-2 sm:grid-cols-[1fr_1fr_1fr_auto]">
            <TextInput
              aria-label={`Name of term ${i + 1}`}
              value={t.name}
              onChange={(e) => changeTerm(i, { name: e.target.value })}
            />
            <DateInput
              aria-label={`First day of ${t.name}`}
              value={t.firstDay}
              onChange={(firstDay) => changeTerm(i, { firstDay })}
            />
            <DateInput
              aria-label={`Last day of ${t.name}`}
              value={t.lastDay}
              onChange={(lastDay) => changeTerm(i, { lastDay })}
            />
            <Button
              kind="quiet"
              onClick={() => setYear({ ...year, terms: year.terms.filter((_, at) => at !== i) })}
            >
              Take away<span className="sr-only"> {t.name}</span>
            </Button>
            {problem(`terms.${i}`) && (
              <p role="alert" className="text-[13px] text-port sm:col-span-4">
                ▲ {problem(`terms.${i}`)}
              </p>
            )}
          </div>
        ))}
        <p>
          <Button
            kind="plain"
            disabled={year.terms.length >= 6}
            onClick={() =>
              setYear({ ...year, terms: [...year.terms, { name: '', firstDay: '', lastDay: '' }] })
            }
          >
            Add a term
          </Button>
        </p>
      </fieldset>
      <p>
        <Button type="submit" busy={busy}>
          Make this academic year
        </Button>
      </p>
    </form>
  )
}
