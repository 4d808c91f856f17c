'use client'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { dayWords } from '@/core/calendar/day-words'
import { KeptMarks } from './kept-marks'
import { sessionQuery, type Register, type RegisterInput } from './use-register'

/** Why the register of a lesson cannot be taken, if that lies in the lesson. */
function lessonReason({ lesson, begun, rows, place, date, session, taken }: Register): string | undefined {
  if (!lesson)
    return session === ''
      ? `${place.name} has no lesson on ${shortDate(date, true)}.`
      : `${place.name} has no lesson in period ${session} on ${shortDate(date, true)}.`
  if (!taken)
    return `No registers are taken in the lessons of this year group. An administrator chooses that under School, Timetable.`
  if (lesson.cancelled)
    return `The lesson in period ${session} on ${shortDate(date, true)} is cancelled.${lesson.note ? ` ${lesson.note}` : ''}`
  if (!begun) return `This lesson starts at ${lesson.starts}. Its register opens ten minutes before.`
  return rows.length === 0 ? `No students are in ${place.name} on ${shortDate(date, true)}.` : undefined
}

function halfDayReason({ begun, rows, place, date, session, taken }: Register): string | undefined {
  if (!taken)
    return `${place.name} takes registers in lessons, not for half-days. An administrator chooses that under School, Timetable.`
  if (!begun)
    return `The ${session} session of ${shortDate(date)} has not started. This register opens when the session starts.`
  return rows.length === 0
    ? `No students are on roll in ${place.name} on ${shortDate(date, true)}. The office enrols students under People.`
    : undefined
}

/** Says why there is no register here, and where the nearest one is. */
export function NoSession({
  register,
  input,
  onCleared,
}: {
  register: Register
  input: RegisterInput
  onCleared: () => void
}) {
  const { day, nearest, begun } = register
  const ofLesson = 'classId' in input
  const reason =
    day?.kind !== 'school day'
      ? `There is no register on ${shortDate(input.date, true)}: ${dayWords(day)}.`
      : ((ofLesson ? lessonReason(register) : halfDayReason(register)) ??
        (register.codes.length === 0
          ? `No attendance codes are in use on ${shortDate(input.date, true)}. An administrator starts a set under School, Attendance codes.`
          : ''))
  const words = ({ date, session }: { date: string; session: string }) =>
    ofLesson ? `${shortDate(date)}, period ${session}` : shortDate(date)
  return (
    <div className="grid max-w-xl gap-3">
      <p>{reason}</p>
      <KeptMarks register={register} input={input} onCleared={onCleared} />
      {!ofLesson && !register.taken && (
        <Link className="link" href={`/attendance/lessons?date=${input.date}`}>
          Lessons of the day
        </Link>
      )}
      {day?.kind === 'school day' && !begun && input.session === 'afternoon' && (
        <Link className="link" href={`?date=${input.date}&session=morning`}>
          Go to the morning register
        </Link>
      )}
      {nearest.previous && (
        <Link className="link" href={sessionQuery(nearest.previous)}>
          Previous {ofLesson ? 'lesson' : 'school day'}: {words(nearest.previous)}
        </Link>
      )}
      {nearest.next && (
        <Link className="link" href={sessionQuery(nearest.next)}>
          Next {ofLesson ? 'lesson' : 'school day'}: {words(nearest.next)}
        </Link>
      )}
    </div>
  )
}
