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
  readonly email: string
  readonly guardianInvited: boolean
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
        {shortDate(student.from, true)}.
        {student.email &&
          (student.guardianInvited
            ? ` Kedge will email ${student.email} how to sign in.`
            : ` The guardian with ${student.email} already has an account or an invitation, so no mail was sent.`)}
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
