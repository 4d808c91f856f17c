'use client'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { dayWords } from '@/core/calendar/day-words'
import type { Register, RegisterInput } from './use-register'

/** Says why there is no register here, and where the nearest one is. */
export function NoSession({ register, input }: { register: Register; input: RegisterInput }) {
  const { day, nearest, begun, rows } = register
  const reason =
    day?.kind !== 'school day'
      ? `There is no register on ${shortDate(input.date, true)}: ${dayWords(day)}.`
      : !begun
        ? `The ${input.session} session of ${shortDate(input.date)} has not started. This register opens when the session starts.`
        : rows.length === 0
          ? `No students are on roll in ${register.homeroom.name} on ${shortDate(input.date, true)}. The office enrols students under People.`
          : register.codes.length === 0
            ? `No attendance codes are in use on ${shortDate(input.date, true)}. An administrator starts a set under School, Attendance codes.`
            : ''
  const to = (date: string) => `?date=${date}&session=${input.session}`
  return (
    <div className="grid max-w-xl gap-3">
      <p>{reason}</p>
      {day?.kind === 'school day' && !begun && input.session === 'afternoon' && (
        <Link className="link" href={`?date=${input.date}&session=morning`}>
          Go to the morning register
        </Link>
      )}
      {nearest?.previous && (
        <Link className="link" href={to(nearest.previous)}>
          Previous school day: {shortDate(nearest.previous)}
        </Link>
      )}
      {nearest?.next && (
        <Link className="link" href={to(nearest.next)}>
          Next school day: {shortDate(nearest.next)}
        </Link>
      )}
    </div>
  )
}
