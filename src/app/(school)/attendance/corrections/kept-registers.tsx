'use client'
import NextLink from 'next/link'
import { sessionWords } from '@/core/attendance/sessions'
import { shortDate } from '@/core/calendar/date-words'
import type { QueryOutput } from '@/server/registry'
import { useLive } from '@/screen/use-live'

/** Registers of sessions that do not take place any more, each with the page on which its marks are cleared. */
export function KeptRegisters({ initial }: { initial: QueryOutput<'attendance.keptMarks'> }) {
  const [{ registers, all }] = useLive('attendance.keptMarks', {}, initial)
  if (registers.length === 0) return null
  return (
    <section aria-labelledby="kept-registers" className="mt-8">
      <h2 id="kept-registers" className="mb-1">
        Kept from before
      </h2>
      <p className="mb-2 max-w-3xl text-muted">
        These registers were taken on days that have no school now, or in lessons that were cancelled. Their
        marks count in no figure, letter or list until they take place again.
      </p>
      <ul className="grid gap-x-8 sm:grid-cols-2">
        {registers.map((r) => (
          <li
            key={`${r.homeroomId ?? r.classId} ${r.date} ${r.session}`}
            className="border-b border-rule py-1"
          >
            <NextLink
              prefetch={false}
              className="link"
              href={
                r.homeroomId === null
                  ? `/classes/${r.classId}/register?session=${r.session}&date=${r.date}`
                  : `/attendance/registers/${r.homeroomId}?session=${r.session}&date=${r.date}`
              }
            >
              {r.name}, {shortDate(r.date)}, {sessionWords(r.session)}
            </NextLink>{' '}
            <span className="text-muted">{r.marks === 1 ? '1 mark' : `${r.marks} marks`}</span>
          </li>
        ))}
      </ul>
      {all > registers.length && (
        <p className="mt-2 text-muted">
          The latest {registers.length} of {all} are shown.
        </p>
      )}
    </section>
  )
}
