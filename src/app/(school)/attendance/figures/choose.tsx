'use client'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import Link from '@/screen/link'
import type { Choices } from './scope'

/** Says why there are no figures to see. */
export function Choose({
  choices,
  isUnknown,
}: {
  choices: Choices
  /** The address asks for something that figures cannot be of. */
  isUnknown: boolean
}) {
  const isWrongAddress = choices.year && isUnknown
  return (
    <div className="sheet reading">
      <AttendanceHead page="Figures" />
      <p>
        {isWrongAddress ? (
          <>
            This address does not name a student, class, homeroom, year group or group.{' '}
            <Link className="link" href="/attendance/figures">
              View your figures
            </Link>
          </>
        ) : choices.year ? (
          'You have no homeroom and no class, so there are no figures to show.'
        ) : (
          'There is no academic year yet. An administrator creates it under School.'
        )}
      </p>
    </div>
  )
}
