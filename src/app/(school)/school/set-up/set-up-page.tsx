'use client'
import { missingForRegister, setUpSteps, type SetUpCounts } from '@/core/calendar/set-up'
import { PageHead } from '@/screen/page-head'
import { useLive } from '@/screen/use-live'
import { Check, type CheckAnswer } from './check'
import { Steps } from './steps'

/** What the school has, and what is still missing before the first register can be taken. */
function SettingUp({ initial, date }: { initial: SetUpCounts; date: string }) {
  const [counts] = useLive('setUp.state', { date }, initial)
  const steps = setUpSteps(counts)
  const missing = missingForRegister(steps)
  const open = steps.filter((step) => !step.done).length
  return (
    <section className="mb-8 max-w-3xl" aria-labelledby="steps">
      <h2 id="steps">{open === 0 ? 'Steps, all done' : `Steps, ${open} to do`}</h2>
      <p className="mb-3" role="status">
        {missing.length > 0
          ? `Before the first register can be taken: ${missing.map((step) => step.title.toLowerCase()).join(', ')}.`
          : 'Registers can be taken.'}
      </p>
      <Steps steps={steps} />
    </section>
  )
}

/** What the school still needs, for those who set it up, and whether what it has is right. */
export function SetUpPage({
  steps,
  check,
  date,
}: {
  /** Missing for those who only check. */
  steps: SetUpCounts | undefined
  check: CheckAnswer
  date: string
}) {
  return (
    <div className="sheet print-wide">
      <PageHead title="Set-up" />
      {steps && <SettingUp initial={steps} date={date} />}
      <Check initial={check} date={date} />
    </div>
  )
}
