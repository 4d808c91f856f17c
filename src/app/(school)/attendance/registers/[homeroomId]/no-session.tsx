'use client'
import Link from '@/screen/link'
import { shortDate } from '@/core/calendar/date-words'
import { dayWords } from '@/core/calendar/day-words'
import { useSchool } from '@/screen/school-context'
import { sessionQuery, type Register, type RegisterInput } from './use-register'

/** Why the register of a lesson cannot be taken, if that lies in the lesson. */
function lessonReason({ lesson, begun, rows, place, date, session, taken }: Register): string | undefined {
  if (!lesson)
    return session === ''
      ? `${place.name} has no lesson on ${shortDate(date, true)}.`
      : `${place.name} has no lesson in period ${session} on ${shortDate(date, true)}.`
  if (!taken)
    return `No registers are taken in the lessons of this year group. An administrator chooses that under School, Structure.`
  if (lesson.cancelled)
    return `The lesson in period ${session} on ${shortDate(date, true)} is cancelled.${lesson.note ? ` ${lesson.note}` : ''}`
  if (!begun) return `This lesson starts at ${lesson.starts}. Its register opens ten minutes before.`
  return rows.length === 0 ? `No students are in ${place.name} on ${shortDate(date, true)}.` : undefined
}

function halfDayReason({ begun, rows, place, date, session, taken }: Register): string | undefined {
  if (!taken)
    return `${place.name} takes registers in lessons, not for half-days. An administrator chooses that under School, Structure.`
  if (!begun)
    return `The ${session} session of ${shortDate(date)} has not started. This register opens when the session starts.`
  return rows.length === 0
    ? `No students are on roll in ${place.name} on ${shortDate(date, true)}. The office enrols students under People.`
    : undefined
}

/** Marks of a lesson that the timetable no longer has: they count, so they can be seen. */
function MarksLeft({ rows, codes, date }: Register) {
  const mayCorrect = useSchool().acts.some((act) => act.href === '/attendance/corrections')
  const codeOf = new Map(codes.map((c) => [c.id, c]))
  const marked = rows.flatMap((row) => {
    const code = row.mark?.codeId ? codeOf.get(row.mark.codeId) : undefined
    return code ? [{ row, code }] : []
  })
  if (marked.length === 0) return null
  return (
    <>
      <p>
        It was marked when the timetable had this lesson. These marks count in the figures.{' '}
        {mayCorrect ? (
          <Link className="link" href={`/attendance/corrections?date=${date}`}>
            Change them in Corrections
          </Link>
        ) : (
          'The office can change them.'
        )}
      </p>
      <table className="rows" aria-label="Marks of this lesson">
        <thead>
          <tr>
            <th scope="col">Student</th>
            <th scope="col">Mark</th>
            <th scope="col">Entered by</th>
          </tr>
        </thead>
        <tbody>
          {marked.map(({ row, code }) => (
            <tr key={row.studentId}>
              <th scope="row">{row.name}</th>
              <td>
                <strong>{code.code}</strong> {code.label}
                {row.mark?.minutesLate != null && `, ${row.mark.minutesLate} min`}
                {row.mark?.note && `, ${row.mark.note}`}
              </td>
              <td>{row.mark?.changedBy}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

/** Says why there is no register here, and where the nearest one is. */
export function NoSession({ register, input }: { register: Register; input: RegisterInput }) {
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
      {ofLesson && !register.lesson && <MarksLeft {...register} />}
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
