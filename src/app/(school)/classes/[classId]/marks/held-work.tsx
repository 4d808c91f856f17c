'use client'
import type { HeldExplanation } from '@/core/marks/periods/held'
import type { MarksPeriod } from '@/core/marks/periods/state'
import { Problem } from '@/ui/field'
import { ExplanationView } from '@/screen/explanation-view'
import { useAnswer } from '@/screen/use-live'

/** How the held marks of a student were worked out when they were confirmed, whatever the gradebook says by now. */
export function HeldWork({
  classId,
  period,
  studentId,
  nameOf,
}: {
  classId: string
  period: MarksPeriod
  studentId: string
  /** What the mark or a column is called. */
  nameOf: (source: string) => string
}) {
  const { answer, problem } = useAnswer('marks.heldMark', { classId, period, studentId })
  if (problem) return <Problem>{problem}</Problem>
  if (!answer) return <p className="text-muted">Loading.</p>
  return (
    <div className="grid w-full gap-3 border-l-4 border-rule py-2 pl-4 text-[13px]">
      {answer.map(({ source, mark, grade, explanation }) => (
        <section key={source}>
          <h3 className="font-bold">
            {nameOf(source)}: {[mark, grade].filter(Boolean).join(' ') || 'nothing'}
          </h3>
          <OneWork of={explanation as HeldExplanation} />
        </section>
      ))}
    </div>
  )
}

function OneWork({ of }: { of: HeldExplanation }) {
  switch (of.kind) {
    case 'mark':
      // Of one pool no category has a weight.
      return (
        <ExplanationView why={of.mark} byPoints={of.mark.categories.every((c) => c.weight === undefined)} />
      )
    case 'column':
      return (
        <>
          <dl className="grid grid-cols-[1fr_auto] gap-x-3">
            {of.steps.map(({ name, shown, taken }, i) => (
              <div key={i} className={`contents ${taken ? '' : 'text-muted'}`}>
                <dt>{name}</dt>
                <dd className="text-right">{shown ?? 'nothing'}</dd>
              </div>
            ))}
          </dl>
          <p className="text-muted">{of.sentence}</p>
        </>
      )
    case 'entered':
      return <p className="text-muted">Entered by hand.</p>
    case 'before':
      return <p className="text-muted">It was handed in before Kedge kept how marks are worked out.</p>
  }
}
