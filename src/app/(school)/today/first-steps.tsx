'use client'
import { hasSome } from '@/core/people/roles'
import { buttonLooks } from '@/ui/button'
import Link from '@/screen/link'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'

/** What an empty school sees first. */
export function FirstSteps() {
  const { actor, schoolName } = useSchool()
  return (
    <div className="sheet max-w-2xl">
      <PageHead title={`Set up ${schoolName}`} />
      <p className="mb-4">
        Everything in Kedge belongs to an academic year, so create it first. Then add year groups and
        homerooms, and enrol students.
      </p>
      {hasSome(actor.roles, 'administrator') ? (
        <Link href="/school/year" className={buttonLooks()}>
          Create the academic year
        </Link>
      ) : (
        <p>An administrator creates the academic year. Your registers and classes then appear here.</p>
      )}
    </div>
  )
}
