'use client'
import { setUpSteps } from '@/core/calendar/set-up'
import { hasSome } from '@/core/people/roles'
import { Problem } from '@/ui/field'
import { PageHead } from '@/screen/page-head'
import { useSchool } from '@/screen/school-context'
import { useAnswer } from '@/screen/use-live'
import { Steps } from '@/app/(school)/school/set-up/steps'

/** The administrator's steps; the same list stands under School, Set-up, for as long as one wants it. */
function OwnSteps() {
  const { today } = useSchool()
  const { answer, problem } = useAnswer('setUp.state', { date: today })
  if (problem) return <Problem>{problem}</Problem>
  return answer ? <Steps steps={setUpSteps(answer)} /> : <p role="status">Loading the steps</p>
}

/** What an administrator goes on with until the first register is taken. */
export function NextSteps() {
  return (
    <section className="mb-8" data-testid="next-steps">
      <h2 className="mb-1 text-[17px]">Setting up the school</h2>
      <p className="mb-3 text-muted">
        These steps stand here until the first register is taken, and under School, Set-up, for as long as you
        want them.
      </p>
      <OwnSteps />
    </section>
  )
}

/** What an empty school sees first. */
export function FirstSteps() {
  const { actor, schoolName } = useSchool()
  return (
    <div className="sheet reading">
      <PageHead title={`Set up ${schoolName}`} />
      <p className="mb-4">
        Everything in Kedge belongs to an academic year, so it is best created first. The order of the rest is
        up to you.
      </p>
      {hasSome(actor.roles, 'administrator') ? (
        <OwnSteps />
      ) : (
        <p>An administrator creates the academic year. Your registers and classes then appear here.</p>
      )}
    </div>
  )
}
