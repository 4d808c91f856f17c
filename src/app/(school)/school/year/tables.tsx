'use client'
import { monthName, shortDate, weekdayName } from '@/core/calendar/date-words'
import { schoolDays, weekday, type SchoolYear } from '@/core/calendar/school-year'
import { checkClosure } from '@/core/calendar/check-closure'
import { checkPeriod } from '@/core/calendar/check-period'
import { checkHolds, checkTerm, daysLost, movedAlong, movedWith } from '@/core/calendar/check-term'
import { sendCommand } from '@/screen/server'
import type { QueryOutput } from '@/server/registry'
import { DataTable } from '@/ui/table/data-table'
import { editColumn, onlyEdit } from '@/ui/table/edit-column'
import { closureWords } from './closure-words'
import { useTypedDays } from './typed-days'
import type { TypedDays, Typing } from './year'

type Calendar = QueryOutput<'year.calendar'>
type Term = Calendar['terms'][number]
type Closure = Calendar['closures'][number]
type Period = Calendar['periods'][number]

const daysOf = ({ name, firstDay, lastDay }: TypedDays) => ({ name, firstDay, lastDay })

/** The terms of a year with their school days; those who may edit them and open or close them to teachers. */
export function Terms({
  year,
  terms,
  periods,
  typing,
  onEdit,
  onOpen,
}: {
  year: SchoolYear
  terms: readonly Term[]
  periods: readonly Period[]
  /** For those who may change the year. */
  typing?: Typing<Term>
  onEdit?: (id: string) => void
  onOpen?: (term: Term) => void
}) {
  const { field, notices } = useTypedDays(terms, {
    ...typing,
    check: (term, days) => [
      ...checkTerm(
        year,
        terms.filter((t) => t.id !== term.id),
        days,
      ),
      ...checkHolds(
        movedAlong(
          periods.filter((p) => p.termId === term.id),
          term,
          days,
        ),
        days,
      ),
    ],
    touched: daysLost,
    also: (term, days) => {
      const moved = movedWith(
        periods.filter((p) => p.termId === term.id),
        term,
        days,
      )
      return moved.length === 0
        ? ''
        : `${moved.map((p) => `${p.name} (${shortDate(p.firstDay)} to ${shortDate(p.lastDay)})`).join(', ')} ${moved.length === 1 ? 'moves' : 'move'} with it.`
    },
    draft: `terms ${year.name}`,
    save: (term, typed, expectedVersion, key) =>
      sendCommand(
        'year.saveTerm',
        { ...daysOf(typed), termId: term.id, yearId: year.id, expectedVersion },
        key,
      ),
  })
  return (
    <>
      <DataTable
        label="Terms"
        rows={terms}
        rowKey={(t) => t.id}
        empty={<p>No terms.</p>}
        columns={[
          {
            id: 'term',
            title: 'Term',
            heading: true,
            cell: (t) => (typing ? field(t, 'name') : t.name),
          },
          {
            id: 'from',
            title: 'First day',
            cell: (t) => (typing ? field(t, 'firstDay') : shortDate(t.firstDay)),
          },
          {
            id: 'to',
            title: 'Last day',
            cell: (t) => (typing ? field(t, 'lastDay') : shortDate(t.lastDay)),
          },
          {
            id: 'days',
            title: 'School days',
            align: 'right',
            cell: (t) => schoolDays(year, t.firstDay, t.lastDay).length,
          },
          { id: 'open', title: 'For teachers', cell: (t) => (t.open ? 'can edit' : 'read only') },
          ...(onEdit && onOpen
            ? [
                editColumn<Term>(
                  {
                    words: (t) => (t.open ? 'Make read only' : 'Let teachers edit'),
                    about: (t) => t.name,
                    act: onOpen,
                  },
                  { words: () => 'Edit', about: (t) => t.name, act: (t) => onEdit(t.id) },
                ),
              ]
            : []),
        ]}
      />
      {typing && notices}
    </>
  )
}

const months = (year: SchoolYear) => {
  const counts = new Map<string, number>()
  for (const day of schoolDays(year, year.firstDay, year.lastDay)) {
    const month = day.slice(0, 7)
    counts.set(month, (counts.get(month) ?? 0) + 1)
  }
  return [...counts]
}

/** How many school days each month and each weekday of the year has. */
export function SchoolDayCounts({ year }: { year: SchoolYear }) {
  const days = schoolDays(year, year.firstDay, year.lastDay)
  const lists = [
    { name: 'By month', counts: months(year).map(([month, n]) => [monthName(month), n] as const) },
    {
      name: 'By weekday',
      counts: year.weekdays.map(
        (d) => [weekdayName(d), days.filter((day) => weekday(day) === d).length] as const,
      ),
    },
  ]
  return (
    <div className="grid gap-4 text-[13px]">
      <p className="text-muted">{days.length} school days in the year.</p>
      {lists.map(({ name, counts }) => (
        <dl key={name} className="flex flex-wrap gap-x-5 gap-y-1" aria-label={name}>
          {counts.map(([what, n]) => (
            <div key={what} className="flex gap-2">
              <dt className="text-muted">{what}</dt>
              <dd>
                <strong>{n}</strong>
              </dd>
            </div>
          ))}
        </dl>
      ))}
    </div>
  )
}

/** Breaks, holidays and staff days; each can be edited by those who may. */
export function Closures({
  year,
  rows,
  typing,
  onEdit,
}: {
  year: SchoolYear
  rows: readonly Closure[]
  /** For those who may change the year. */
  typing?: Typing<Closure>
  onEdit?: (id: string) => void
}) {
  const { field, notices } = useTypedDays(rows, {
    ...typing,
    check: (row, days) =>
      checkClosure(
        year,
        rows.filter((c) => c.id !== row.id),
        days,
      ),
    touched: (row, days) => daysLost(days, row),
    draft: `closures ${year.name}`,
    save: (row, typed, expectedVersion, key) =>
      sendCommand(
        'year.saveClosure',
        { ...daysOf(typed), kind: row.kind, closureId: row.id, yearId: year.id, expectedVersion },
        key,
      ),
  })
  return (
    <>
      <DataTable
        label="Days without school"
        rows={rows}
        rowKey={(c) => c.id}
        empty={<p>No breaks or holidays within the terms.</p>}
        columns={[
          {
            id: 'name',
            title: 'Name',
            heading: true,
            cell: (c) => (typing ? field(c, 'name') : c.name),
          },
          { id: 'kind', title: 'Kind', cell: (c) => closureWords[c.kind] },
          {
            id: 'from',
            title: 'First day',
            cell: (c) => (typing ? field(c, 'firstDay') : shortDate(c.firstDay)),
          },
          {
            id: 'to',
            title: 'Last day',
            cell: (c) =>
              typing ? field(c, 'lastDay') : c.lastDay === c.firstDay ? '' : shortDate(c.lastDay),
          },
          ...(onEdit
            ? [
                onlyEdit(
                  (c: Closure) => c.name,
                  (c) => onEdit(c.id),
                ),
              ]
            : []),
        ]}
      />
      {typing && notices}
    </>
  )
}

/** Marking and exam periods of the terms with their school days. */
export function Periods({
  year,
  terms,
  rows,
  typing,
  onEdit,
}: {
  year: SchoolYear
  terms: readonly Term[]
  rows: readonly Period[]
  /** For those who may change the year. */
  typing?: Typing<Period>
  onEdit?: (id: string) => void
}) {
  const { field, notices } = useTypedDays(rows, {
    ...typing,
    check: (row, days) => {
      const term = terms.find((t) => t.id === row.termId)
      const others = rows.filter((p) => p.id !== row.id && p.kind === row.kind)
      return term ? checkPeriod(term, others, days) : []
    },
    touched: () => [],
    draft: 'periods',
    save: ({ id, termId, kind }, typed, expectedVersion, key) =>
      sendCommand('year.savePeriod', { ...daysOf(typed), termId, kind, periodId: id, expectedVersion }, key),
  })
  return (
    <>
      <DataTable
        label="Periods within the terms"
        rows={rows}
        rowKey={(p) => p.id}
        empty={<p>No marking or exam periods.</p>}
        columns={[
          {
            id: 'name',
            title: 'Name',
            heading: true,
            cell: (p) => (typing ? field(p, 'name') : p.name),
          },
          {
            id: 'kind',
            title: 'Kind',
            cell: (p) => (p.kind === 'marking' ? 'Marking period' : 'Exam period'),
          },
          {
            id: 'from',
            title: 'First day',
            cell: (p) => (typing ? field(p, 'firstDay') : shortDate(p.firstDay)),
          },
          {
            id: 'to',
            title: 'Last day',
            cell: (p) => (typing ? field(p, 'lastDay') : shortDate(p.lastDay)),
          },
          {
            id: 'days',
            title: 'School days',
            align: 'right',
            cell: (p) => schoolDays(year, p.firstDay, p.lastDay).length,
          },
          ...(onEdit
            ? [
                onlyEdit(
                  (p: Period) => p.name,
                  (p) => onEdit(p.id),
                ),
              ]
            : []),
        ]}
      />
      {typing && notices}
    </>
  )
}
