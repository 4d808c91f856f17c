import type { SetUpStep } from '@/core/calendar/set-up'
import Link from '@/screen/link'

/** The steps of setting up a school, each with what there is and the way to what is missing. */
export function Steps({ steps }: { steps: readonly SetUpStep[] }) {
  return (
    <ol className="border-b border-rule">
      {steps.map((step) => (
        <li
          key={step.title}
          className="grid grid-cols-[24px_minmax(0,1fr)_auto] items-baseline gap-3 border-t border-rule py-2"
        >
          <span aria-hidden className={step.done ? 'text-starboard' : 'text-ochre'}>
            {step.done ? '✓' : '○'}
          </span>
          <span>
            <strong>{step.title}</strong>
            <span className="sr-only">{step.done ? ', done' : ', to do'}</span>
            <span className="block text-[13px] text-muted first-letter:uppercase">{step.words}</span>
          </span>
          <Link className={step.done ? 'link text-muted' : 'link font-bold'} href={step.href}>
            {step.done ? 'Open' : step.act}
            <span className="sr-only">{step.done && `: ${step.title}`}</span>
          </Link>
        </li>
      ))}
    </ol>
  )
}
