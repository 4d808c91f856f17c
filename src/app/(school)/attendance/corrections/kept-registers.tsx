'use client'
import { sessionWords } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import Link from '@/screen/link'
import { useLive } from '@/screen/use-live'

type Kept = QueryOutput<'attendance.keptMarks'>['registers'][number]

const hrefOf = (r: Kept) =>
  r.homeroomId === null
    ? `/classes/${r.classId}/register?session=${r.session}&date=${r.date}`
    : `/attendance/registers/${r.homeroomId}?session=${r.session}&date=${r.date}`

const counted = (n: number, one: string) => (n === 1 ? `1 ${one}` : `${n} ${one}s`)

/** The registers of one day, folded up: a day without school has dozens of them. */
function Day({ date, registers }: { date: string; registers: readonly Kept[] }) {
  const marks = registers.reduce((sum, r) => sum + r.marks, 0)
  return (
    <details className="border-b border-rule py-1">
      <summary className="cursor-pointer py-1">
        <strong>{shortDate(date, true)}</strong>{' '}
        <span className="text-muted">
          {counted(registers.length, 'register')}, {counted(marks, 'mark')}
        </span>
      </summary>
      <ul className="mb-2 grid gap-x-8 pl-5 sm:grid-cols-2">
        {registers.map((r) => (
          <li key={hrefOf(r)} className="py-1">
            <Link className="link" href={hrefOf(r)}>
              {r.name}, {sessionWords(r.session)}
            </Link>{' '}
            <span className="text-muted">{counted(r.marks, 'mark')}</span>
          </li>
        ))}
      </ul>
    </details>
  )
}

/** Registers of sessions that no longer take place, day by day, each with the page on which its marks are cleared. */
export function KeptRegisters({ initial }: { initial: QueryOutput<'attendance.keptMarks'> }) {
  const [{ registers, all }] = useLive('attendance.keptMarks', {}, initial)
  if (registers.length === 0) return null
  const days = [...new Set(registers.map((r) => r.date))]
  return (
    <section aria-labelledby="kept-registers" className="mt-8">
      <h2 id="kept-registers" className="mb-1">
        Kept from before
      </h2>
      <p className="mb-2 max-w-3xl text-muted">
        These registers were taken on days that have no school now, or in lessons that were cancelled. Their
        marks count in no figure, letter or list.
      </p>
      {days.map((date) => (
        <Day key={date} date={date} registers={registers.filter((r) => r.date === date)} />
      ))}
      {all > registers.length && (
        <p className="mt-2 text-muted">
          The latest {registers.length} of {all} are shown.
        </p>
      )}
    </section>
  )
}
