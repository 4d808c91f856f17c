'use client'
import { AttendanceHead } from '@/app/(school)/attendance/attendance-head'
import type { Choices } from './scope'

/** Says why there are no figures to see. */
export function Choose({ choices }: { choices: Choices }) {
  return (
    <div className="sheet max-w-5xl">
      <AttendanceHead page="Figures" />
      <p>
        {choices.year
          ? 'You have no homeroom and no class, so there are no figures to show.'
          : 'There is no academic year yet. An administrator creates it under School.'}
      </p>
    </div>
  )
}
