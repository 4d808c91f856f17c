'use client'
import { parseAsInteger, parseAsString, useQueryStates } from 'nuqs'
import { useState } from 'react'
import { figureDefinitions, type AttendanceFigures } from '@/core/attendance/figures'
import { sessionWords } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import { ChoiceGroup } from '@/ui/choice-group'
import { Field, Select, TextInput } from '@/ui/field'
import { DataTable } from '@/ui/table/data-table'
import { later } from '@/screen/later'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import { DriftChart, WeekChart, WeekdayChart, weekdayName } from './charts'
import { figureColumns, Percent, type Answer, type Figures, type Narrowed, type Open } from './figure-columns'
import { nameOfScope, type Choices, type Scope } from './scope'
import { StudentsTable } from './students-table'

const SessionsDialog = later(() => import('./sessions-dialog').then((m) => m.SessionsDialog))

const kindTitles = {
  homeroom: 'Homerooms',
  class: 'Classes',
  'year group': 'Year groups',
  group: 'Groups',
} as const

const sessionKinds = ['half-days', 'lessons'] as const

/** The figures of everything together, in a line. */
function Total({ total, onOpen, words }: { total: AttendanceFigures; onOpen: Open; words: string }) {
  const parts: readonly (readonly [string, number])[] = [
    ['possible', total.possible],
    ['present', total.present],
    ['late', total.late],
    ['elsewhere', total.elsewhere],
    ['absent with reason', total.withReason],
    ['no reason yet', total.withoutReason],
    ['not expected', total.notExpected],
    ['not marked', total.unmarked],
  ]
  return (
    <p className="mb-6">
      <strong className="text-[23px]">
        <Percent figures={total} of={{ words }} onOpen={onOpen} />
      </strong>{' '}
      present{' '}
      <span className="ml-3">
        {parts
          .filter(([name, n]) => n > 0 || name === 'possible')
          .map(([name, n]) => `${n.toLocaleString('en-GB')} ${name}`)
          .join(' · ')}
      </span>
    </p>
  )
}

/** How the figures are counted, as it is written in the core. */
function Definitions() {
  return (
    <details className="mt-8 max-w-3xl">
      <summary className="link w-fit">How these figures are counted</summary>
      <dl className="mt-3 grid gap-x-4 gap-y-2 sm:grid-cols-[9rem_1fr]">
        {figureDefinitions.map(([figure, counts]) => (
          <div key={figure} className="contents">
            <dt className="font-bold">{figure}</dt>
            <dd>{counts}</dd>
          </div>
        ))}
      </dl>
    </details>
  )
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="min-w-0">
      <h2 className="mb-2 border-b border-ink pb-1">{title}</h2>
      {children}
    </section>
  )
}

/** Attendance figures of whatever is chosen: the shares, by weekday and by week, whose attendance is falling, and who is below the threshold. */
export function FiguresPage({
  choices,
  scope,
  initial,
}: {
  choices: Choices
  scope: Scope
  initial: Answer
}) {
  const [answer] = useLive('attendance.figures', scope, initial)
  const [open, setOpen] = useState<Narrowed>()
  const [asked, setThreshold] = useQueryStates(
    { threshold: parseAsInteger.withDefault(choices.threshold) },
    { history: 'replace' },
  )
  // An address can hold any number.
  const threshold = asked.threshold >= 1 && asked.threshold <= 100 ? asked.threshold : choices.threshold
  const [, setAsked] = useQueryStates(
    { of: parseAsString, period: parseAsString, sessions: parseAsString },
    { shallow: false, history: 'push' },
  )
  const name =
    scope.kind === 'school'
      ? 'whole school'
      : (choices.choices.find((c) => c.id === scope.id)?.name ??
        (answer.hidden ? '' : (answer.students[0]?.name ?? '')))
  const { year } = choices
  const period = year?.terms.find((t) => t.firstDay === scope.from && t.lastDay === scope.to)
  return (
    <div className="sheet">
      <AttendanceHead
        page="Figures"
        detail={`${name}, ${shortDate(scope.from)} to ${shortDate(scope.date < scope.to ? scope.date : scope.to)}`}
      />
      <div className="mb-5 flex flex-wrap items-end gap-x-5 gap-y-3 no-print">
        <div className="w-56">
          <Field label="Figures of">
            {(field) => (
              <Select
                {...field}
                value={nameOfScope(scope)}
                onChange={(e) => void setAsked({ of: e.target.value })}
              >
                {choices.whole && <option value="school:">Whole school</option>}
                {scope.kind === 'student' && <option value={nameOfScope(scope)}>{name}</option>}
                {Object.entries(kindTitles).map(([kind, title]) => {
                  const own = choices.choices.filter((c) => c.kind === kind)
                  return (
                    own.length > 0 && (
                      <optgroup key={kind} label={title}>
                        {own.map((c) => (
                          <option key={c.id} value={nameOfScope(c)}>
                            {c.name}
                          </option>
                        ))}
                      </optgroup>
                    )
                  )
                })}
              </Select>
            )}
          </Field>
        </div>
        <div className="w-44">
          <Field label="Period">
            {(field) => (
              <Select
                {...field}
                value={period?.id ?? 'year'}
                onChange={(e) => void setAsked({ period: e.target.value })}
              >
                {year?.terms.map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name} term
                  </option>
                ))}
                <option value="year">Year {year?.name}</option>
              </Select>
            )}
          </Field>
        </div>
        <ChoiceGroup
          label="Sessions"
          choices={sessionKinds}
          value={scope.sessions}
          onChange={(sessions) => sessions && void setAsked({ sessions })}
        />
        <div className="w-28">
          <Field label="Threshold, %">
            {(field) => (
              <TextInput
                {...field}
                type="number"
                min={1}
                max={100}
                value={threshold}
                onChange={(e) => {
                  const typed = e.target.valueAsNumber
                  if (typed >= 1 && typed <= 100) void setThreshold({ threshold: Math.round(typed) })
                }}
              />
            )}
          </Field>
        </div>
      </div>
      {scope.kind === 'student' && (
        <p className="mb-4 flex gap-5 no-print">
          <Link className="link" href={`/people/${scope.id}`}>
            Record of {name}
          </Link>
          <a
            className="link"
            href={`/api/certificate?${new URLSearchParams({ id: scope.id ?? '', from: scope.from, to: scope.to, date: scope.date })}`}
          >
            Certificate as PDF
          </a>
        </p>
      )}
      {answer.hidden ? (
        <p className="max-w-xl">
          {answer.students === 0
            ? 'Nobody belonged here in this period.'
            : `${name} had ${answer.students === 1 ? '1 student' : `${answer.students} students`} in this period. Figures of fewer than five are not shown, since they would say something about each of them. Each student's own figures are on their record.`}
        </p>
      ) : answer.total.possible === 0 ? (
        <p className="max-w-xl">
          No sessions have been marked in this period
          {scope.sessions === 'lessons'
            ? '. Registers of lessons are taken where the year group takes them'
            : ''}
          .
        </p>
      ) : (
        <>
          <Total total={answer.total} words={name} onOpen={setOpen} />
          <div className="mb-8 grid gap-x-8 gap-y-6 lg:grid-cols-2">
            <Part title="By weekday">
              <WeekdayChart rows={answer.byWeekday} />
              <DataTable
                label="By weekday"
                rows={answer.byWeekday}
                rowKey={(r) => String(r.weekday)}
                columns={[
                  {
                    id: 'day',
                    title: 'Weekday',
                    heading: true,
                    cell: (r) => weekdayName(r.weekday),
                  },
                  ...figureColumns<Figures['byWeekday'][number]>(
                    (r) => ({ words: weekdayName(r.weekday), weekday: r.weekday }),
                    setOpen,
                  ),
                ]}
                empty={null}
              />
            </Part>
            <Part title="By week">
              <WeekChart rows={answer.byWeek} threshold={threshold} />
              <details>
                <summary className="link w-fit">Show the weeks as a table</summary>
                <DataTable
                  label="By week"
                  rows={answer.byWeek}
                  rowKey={(r) => r.week}
                  columns={[
                    { id: 'week', title: 'Week from', heading: true, cell: (r) => shortDate(r.week) },
                    ...figureColumns<Figures['byWeek'][number]>(
                      (r) => ({ words: `the week from ${shortDate(r.week)}`, week: r.week }),
                      setOpen,
                    ),
                  ]}
                  empty={null}
                />
              </details>
              <h3 className="mt-5 mb-1">By session</h3>
              <DataTable
                label="By session"
                rows={answer.bySession}
                rowKey={(r) => r.session}
                columns={[
                  { id: 'session', title: 'Session', heading: true, cell: (r) => sessionWords(r.session) },
                  ...figureColumns<Figures['bySession'][number]>(
                    (r) => ({ words: sessionWords(r.session), session: r.session }),
                    setOpen,
                  ),
                ]}
                empty={null}
              />
            </Part>
            {scope.kind !== 'student' && (
              <Part title="Falling attendance">
                <DriftChart students={answer.students} onOpen={setOpen} />
              </Part>
            )}
            {answer.byHomeroom.length > 0 && (
              <Part title="By homeroom">
                <DataTable
                  label="By homeroom"
                  rows={answer.byHomeroom.flatMap((r) => (r.figures ? [{ ...r, figures: r.figures }] : []))}
                  rowKey={(r) => r.id}
                  columns={[
                    { id: 'homeroom', title: 'Homeroom', heading: true, cell: (r) => r.name },
                    ...figureColumns<Figures['byHomeroom'][number] & { figures: AttendanceFigures }>(
                      (r) => ({ words: r.name, homeroomId: r.id }),
                      setOpen,
                    ),
                  ]}
                  empty={null}
                />
                {answer.byHomeroom.some((r) => r.figures === null) && (
                  <p className="mt-1 text-[13px] text-muted">
                    Not shown, because they have fewer than five students:{' '}
                    {answer.byHomeroom
                      .filter((r) => r.figures === null)
                      .map((r) => r.name)
                      .join(', ')}
                  </p>
                )}
              </Part>
            )}
          </div>
          {scope.kind !== 'student' && (
            <Part title="Below the threshold">
              <StudentsTable
                figures={answer}
                threshold={threshold}
                name={name}
                scope={scope}
                onOpen={setOpen}
              />
            </Part>
          )}
        </>
      )}
      <Definitions />
      {open && <SessionsDialog scope={scope} narrowed={open} onClose={() => setOpen(undefined)} />}
    </div>
  )
}
