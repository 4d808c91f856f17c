import { shortDate } from '@/core/calendar/date-words'
import { numberWords } from '@/core/people/student-number'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'

export interface Enrolled {
  readonly studentId: string
  readonly number: number
  readonly name: string
  readonly homeroomId: string
  readonly homeroom: string
  readonly classes: number
  readonly from: string
  /** Addresses of guardians that were typed, and those that get an invitation. */
  readonly emails: readonly string[]
  readonly invited: readonly string[]
}

/** Which guardians are told how to sign in, and which were told before. */
function mailWords({ emails, invited }: Enrolled): string {
  const known = emails.filter((email) => !invited.includes(email))
  return [
    ...(invited.length > 0 ? [` Kedge will email ${invited.join(' and ')} how to sign in.`] : []),
    ...known.map(
      (email) => ` The guardian with ${email} already has an account or an invitation, so no mail was sent.`,
    ),
  ].join('')
}

/** Says what enrolling has done, and where to continue. */
export function EnrolledPage({ student }: { student: Enrolled }) {
  return (
    <div className="sheet reading">
      <PageHead
        title={`${student.name} is enrolled`}
        detail={`Permanent number ${numberWords(student.number)}`}
      />
      <p className="mb-4">
        On the lists of {student.homeroom} and of {student.classes} classes from{' '}
        {shortDate(student.from, true)}.{mailWords(student)}
      </p>
      <p className="flex gap-4">
        <Link className="link" href={`/people/${student.studentId}`}>
          Open the record
        </Link>
        <Link className="link" href={`/attendance/registers/${student.homeroomId}?date=${student.from}`}>
          Open the homeroom’s register
        </Link>
        <a className="link" href="/people/enrol">
          Enrol another student
        </a>
      </p>
    </div>
  )
}
