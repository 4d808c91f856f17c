'use client'
import { missingForRegister, setUpSteps, type SetUpCounts } from '@/core/calendar/set-up'
import { useLive } from '@/screen/use-live'
import { SchoolHead } from '@/app/(school)/school/school-head'
import { Steps } from './steps'

/** What the school has, and what is still missing before the first register can be taken. */
export function SetUpPage({ initial, date }: { initial: SetUpCounts; date: string }) {
  const [counts] = useLive('year.setUp', { date }, initial)
  const steps = setUpSteps(counts)
  const missing = missingForRegister(steps)
  const open = steps.filter((step) => !step.done)
  return (
    <div className="sheet max-w-3xl">
      <SchoolHead title="Set-up" detail={open.length === 0 ? 'complete' : `${open.length} to do`} />
      <p className="mb-3" role="status">
        {missing.length > 0
          ? `Before the first register can be taken: ${missing.map((step) => step.title.toLowerCase()).join(', ')}.`
          : 'Registers can be taken.'}
      </p>
      <Steps steps={steps} />
    </div>
  )
}
