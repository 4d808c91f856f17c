'use client'
import Link from '@/screen/link'
import { buttonLooks } from '@/ui/button'
import { useSchool } from '@/screen/school-context'

/** What an empty school sees first. */
export function FirstSteps() {
  const { actor, schoolName } = useSchool()
  return (
    <div className="sheet max-w-2xl">
      <h1 className="mb-2">{schoolName} is empty</h1>
      <p className="mb-4">
        Everything in Kedge belongs to an academic year, so that comes first. Year groups and homerooms
        follow, then students can be enrolled.
      </p>
      {actor.roles.includes('administrator') ? (
        <Link href="/school-year" className={buttonLooks()}>
          Make the academic year
        </Link>
      ) : (
        <p>
          An administrator makes the academic year. Once it is there, your registers and classes appear here.
        </p>
      )}
    </div>
  )
}
