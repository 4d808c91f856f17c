'use client'
import { parseAsString, parseAsStringLiteral, useQueryState } from 'nuqs'
import { sessions } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { Button } from '@/ui/button'
import { ChoiceGroup } from '@/ui/choice-group'
import { Field, Select } from '@/ui/field'
import { Download } from '@/ui/table/download'
import { useLive } from '@/screen/use-live'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'

type Sheets = QueryOutput<'attendance.sheets'>
type Homeroom = Sheets['homerooms'][number]

const kinds = ['day', 'week', 'blank week'] as const
const kindWords = { day: 'Day', week: 'Week', 'blank week': 'Blank week' } as const

/** One homeroom's sheet on a page of its own. */
function Sheet({ homeroom, days, blank }: { homeroom: Homeroom; days: readonly string[]; blank: boolean }) {
  return (
    <section className="mb-8 break-after-page last:break-after-auto" aria-label={homeroom.name}>
      <h2 className="mb-1">
        {homeroom.name} <span className="font-normal text-muted">{homeroom.teacher ?? 'no teacher'}</span>
      </h2>
      <table className="rows w-full" aria-label={`Registers of ${homeroom.name}`}>
        <thead>
          <tr>
            <th scope="col" rowSpan={2} className="w-9 text-right">
              #
            </th>
            <th scope="col" rowSpan={2}>
              Name
            </th>
            {days.map((day) => (
              <th key={day} scope="colgroup" colSpan={2} className="border-l border-rule text-center">
                {shortDate(day)}
              </th>
            ))}
          </tr>
          <tr>
            {days.flatMap((day) =>
              sessions.map((session) => (
                <th key={day + session} scope="col" className="border-l border-rule text-center font-normal">
                  <abbr title={session} className="no-underline">
                    {session === 'morning' ? 'am' : 'pm'}
                  </abbr>
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {homeroom.students.map((s, i) => (
            <tr key={s.id}>
              <td className="text-right text-muted">{i + 1}</td>
              <th scope="row" className="whitespace-nowrap">
                {s.name}
              </th>
              {days.flatMap((day) =>
                sessions.map((session) => (
                  <td key={day + session} className="border-l border-rule text-center">
                    {blank ? '' : (s.marks[`${day} ${session}`] ?? '')}
                  </td>
                )),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** Registers on paper: of the day, of the week, or empty ones for when there is no power. */
export function SheetsPage({
  input,
  initial,
}: {
  input: { date: string; homeroomId: string | null }
  initial: Sheets
}) {
  const [{ days: week, all, homerooms }] = useLive('attendance.sheets', input, initial)
  const [kind, setKind] = useQueryState('kind', parseAsStringLiteral(kinds).withDefault('week'))
  const [, setHomeroom] = useQueryState('homeroom', parseAsString.withOptions({ shallow: false }))
  const days = kind === 'day' ? week.filter((d) => d === input.date) : week
  const name = input.homeroomId ? (homerooms[0]?.name ?? '') : 'all homerooms'
  return (
    <div className="sheet max-w-6xl">
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
        <div className="w-48">
          <Field label="Homeroom">
            {(field) => (
              <Select
                {...field}
                value={input.homeroomId ?? ''}
                onChange={(e) => void setHomeroom(e.target.value || null)}
              >
                <option value="">All homerooms</option>
                {all.map((h) => (
                  <option key={h.id} value={h.id}>
                    {h.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
        <Download
          list={() => ({
            name: `registers ${name} ${week[0] ?? input.date}`,
            header: [
              'Homeroom',
              'Number',
              'Name',
              ...days.flatMap((day) => sessions.map((s) => `${day} ${s}`)),
            ],
            rows: homerooms.flatMap((h) =>
              h.students.map((s) => [
                h.name,
                s.number,
                s.name,
                ...days.flatMap((day) => sessions.map((x) => s.marks[`${day} ${x}`] ?? '')),
              ]),
            ),
          })}
        />
      </div>
      {days.length === 0 ? (
        <p>
          There is no school {kind === 'day' ? 'on this day' : 'in this week'}. Choose another day on the year
          line.
        </p>
      ) : homerooms.length === 0 ? (
        <p>No students are on roll in any homeroom on this date.</p>
      ) : (
        homerooms.map((h) => <Sheet key={h.id} homeroom={h} days={days} blank={kind === 'blank week'} />)
      )}
    </div>
  )
}
