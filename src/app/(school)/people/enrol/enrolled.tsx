import { shortDate } from '@/core/calendar/date-words'
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

/** Says what enrolling has done, and where to go on. */
export function EnrolledPage({ student }: { student: Enrolled }) {
  return (
    <div className="sheet max-w-2xl">
      <PageHead
        title={`${student.name} is enrolled`}
        detail={`Permanent number ${String(student.number).padStart(4, '0')}`}
      />
      <p className="mb-4">
        On the lists of {student.homeroom} and of {student.classes} classes from{' '}
        {shortDate(student.from, true)} on.
        {student.email &&
          (student.guardianInvited
            ? ` A mail to ${student.email} says how to sign in.`
            : ` The guardian with ${student.email} already has an account or an invitation; no mail was sent.`)}
      </p>
      <p className="flex gap-4">
        <Link className="link" href={`/people/${student.studentId}`}>
          Open the record
        </Link>
        <Link className="link" href={`/homerooms/${student.homeroomId}/register?date=${student.from}`}>
          The homeroom&apos;s register
        </Link>
        <a className="link" href="/people/enrol">
          Enrol another
        </a>
      </p>
    </div>
  )
}
