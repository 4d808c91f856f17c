'use client'
import { parseAsString, parseAsStringLiteral, useQueryState, useQueryStates } from 'nuqs'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryInput, QueryOutput } from '@/server/registry'
import { Across } from '@/ui/across'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { Field, Select } from '@/ui/field'
import { Download } from '@/ui/table/download'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'

type Sheets = QueryOutput<'attendance.sheets'>
type SheetOf = Sheets['sheets'][number]
type Input = QueryInput<'attendance.sheets'>

const kinds = ['day', 'week', 'blank week'] as const
const kindWords = { day: 'Day', week: 'Week', 'blank week': 'Blank week' } as const

/** The sessions of a sheet that lie on some days, day by day. */
const byDay = ({ sessions }: SheetOf, days: readonly string[]) =>
  days
    .map((day) => ({ day, sessions: sessions.filter((s) => s.date === day) }))
    .filter((d) => d.sessions.length > 0)

const shortly = (session: string) =>
  session === 'morning' ? 'am' : session === 'afternoon' ? 'pm' : `period ${session}`

/** One homeroom's or class's sheet on a page of its own. */
function Sheet({ of, days, blank }: { of: SheetOf; days: readonly string[]; blank: boolean }) {
  const columns = byDay(of, days)
  return (
    <section className="mb-8 break-after-page last:break-after-auto" aria-label={of.name}>
      <h2 className="mb-1">
        {of.name} <span className="font-normal text-muted">{of.teacher ?? 'no teacher'}</span>
      </h2>
      <Across label="Register">
        <table className="rows w-full" aria-label={`Registers of ${of.name}`}>
          <thead>
            <tr>
              <th scope="col" rowSpan={2} className="w-9 text-right">
                #
              </th>
              <th scope="col" rowSpan={2}>
                Name
              </th>
              {columns.map(({ day, sessions }) => (
                <th
                  key={day}
                  scope="colgroup"
                  colSpan={sessions.length}
                  className="border-l border-rule text-center"
                >
                  {shortDate(day)}
                </th>
              ))}
            </tr>
            <tr>
              {columns.flatMap(({ day, sessions }) =>
                sessions.map(({ session }) => (
                  <th
                    key={day + session}
                    scope="col"
                    className="border-l border-rule text-center font-normal"
                  >
                    <abbr title={session} className="no-underline">
                      {shortly(session)}
                    </abbr>
                  </th>
                )),
              )}
            </tr>
          </thead>
          <tbody>
            {of.students.map((s, i) => (
              <tr key={s.id}>
                <td className="text-right text-muted">{i + 1}</td>
                <th scope="row" className="whitespace-nowrap">
                  {s.name}
                </th>
                {columns.flatMap(({ day, sessions }) =>
                  sessions.map(({ session }) => (
                    <td key={day + session} className="border-l border-rule text-center">
                      {blank ? '' : (s.marks[`${day} ${session}`] ?? '')}
                    </td>
                  )),
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </Across>
    </section>
  )
}

/** All sheets as one table; where they have different sessions, with a column for each that any has. */
function asList(sheets: readonly SheetOf[], days: readonly string[], ofClasses: boolean) {
  const times = [
    ...new Set(
      sheets.flatMap((of) => byDay(of, days).flatMap((d) => d.sessions.map((s) => `${s.date} ${s.session}`))),
    ),
  ]
  const ordered = ofClasses ? times.sort() : times
  return {
    header: [ofClasses ? 'Class' : 'Homeroom', 'Number', 'Name', ...ordered],
    rows: sheets.flatMap((of) =>
      of.students.map((s) => [of.name, s.number, s.name, ...ordered.map((time) => s.marks[time] ?? '')]),
    ),
  }
}

/** Registers on paper: of the day, of the week, or empty ones for when there is no power. */
export function SheetsPage({ input, initial }: { input: Input; initial: Sheets }) {
  const [{ days: week, homerooms, classes, sheets }] = useLive('attendance.sheets', input, initial)
  const [kind, setKind] = useQueryState('kind', parseAsStringLiteral(kinds).withDefault('week'))
  const [, setOf] = useQueryStates(
    { homeroom: parseAsString, class: parseAsString },
    { shallow: false, history: 'push' },
  )
  const ofClasses = input.of === 'classes'
  const days = kind === 'day' ? week.filter((d) => d === input.date) : week
  const shown = sheets.filter((of) => byDay(of, days).length > 0)
  const name = input.id ? (sheets[0]?.name ?? '') : `all ${input.of}`
  return (
    <div className="sheet">
      <AttendanceHead
        page="Sheets"
        detail={week.length > 0 && `${name}, week from ${shortDate(week[0] ?? '')}`}
        act={<Button onClick={() => window.print()}>Print</Button>}
      />
      <div className="mb-5 flex flex-wrap items-end gap-5 no-print">
        <ChoiceGroup
          label="Sheet"
          choices={kinds}
          value={kind}
          onChange={(next) => next && void setKind(next)}
        >
          {(k) => kindWords[k]}
        </ChoiceGroup>
        <div className="w-56">
          <Field label="Of">
            {(field) => (
              <Select
                {...field}
                value={`${input.of} ${input.id ?? ''}`}
                onChange={(e) => {
                  const [of, id = ''] = e.target.value.split(' ')
                  void setOf(
                    of === 'classes' ? { class: id, homeroom: null } : { homeroom: id || null, class: null },
                  )
                }}
              >
                <optgroup label="Half-days">
                  <option value="homerooms ">All homerooms</option>
                  {homerooms.map((h) => (
                    <option key={h.id} value={`homerooms ${h.id}`}>
                      {h.name}
                    </option>
                  ))}
                </optgroup>
                {classes.length > 0 && (
                  <optgroup label="Lessons">
                    <option value="classes ">All classes</option>
                    {classes.map((c) => (
                      <option key={c.id} value={`classes ${c.id}`}>
                        {c.name}
                      </option>
                    ))}
                  </optgroup>
                )}
              </Select>
            )}
          </Field>
        </div>
        <Download
          list={() => ({
            name: `registers ${name} ${week[0] ?? input.date}`,
            ...asList(shown, days, ofClasses),
          })}
        />
      </div>
      {days.length === 0 ? (
        <p>
          There is no school {kind === 'day' ? 'on this day' : 'in this week'}. Choose another day on the year
          line.
        </p>
      ) : shown.length === 0 ? (
        <p>
          {ofClasses
            ? `No registers are taken in lessons ${kind === 'day' ? 'on this day' : 'in this week'}.`
            : 'No students are on roll in any homeroom on this date.'}
        </p>
      ) : (
        shown.map((of) => <Sheet key={of.id} of={of} days={days} blank={kind === 'blank week'} />)
      )}
    </div>
  )
}
