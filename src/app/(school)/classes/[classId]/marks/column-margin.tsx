'use client'
import { inWords } from '@/core/marks/columns/column'
import type { Evaluated } from '@/core/marks/columns/evaluate'
import { spokenName } from '@/core/people/names'
import { nameOfOperand } from '@/core/marks/columns/words'
import { namesIn } from './column-words'
import type { GradebookAnswer, ShownCalculated } from './book'

/** How a calculated column of a student is worked out: its sentence, and each part with what it gave. */
export function ColumnMargin({
  gradebook,
  column,
  value,
  student,
}: {
  gradebook: GradebookAnswer
  column: ShownCalculated
  value: Evaluated
  student: { name: string }
}) {
  const names = namesIn(gradebook)
  const isWeighted = column.does === 'mean' && new Set(column.parts.map((p) => Number(p.weight))).size > 1
  return (
    <section className="stay mb-4" data-testid="column-explanation">
      <h2 className="text-[17px]">
        {value.text === undefined
          ? `${spokenName(student.name)} has no ${column.name} yet`
          : `How ${spokenName(student.name)}’s ${column.name} is worked out`}
      </h2>
      {value.text !== undefined && (
        <p className="mb-2 text-[26px] leading-9 font-bold">
          {value.text} <span className="text-[18px] font-normal">{value.level}</span>
        </p>
      )}
      <dl className="grid grid-cols-[1fr_auto_auto] gap-x-2">
        {value.steps.map(({ operand, shown, taken, weight }, i) => (
          <div key={i} className={`contents ${taken ? '' : 'text-muted'}`}>
            <dt className={shown !== undefined && !taken ? 'line-through' : ''}>
              {nameOfOperand(operand, names)}
            </dt>
            <dd className="text-right text-[12px]">{isWeighted && taken ? `weight ${weight}` : ''}</dd>
            <dd className="text-right">{shown ?? 'nothing yet'}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 border-t border-rule pt-1 text-[12px] text-muted">
        {inWords(column, (operand) => nameOfOperand(operand, names))}
        {value.steps.some((s) => s.shown === undefined) &&
          column.does !== 'count' &&
          ' What has no value yet is left out.'}
      </p>
    </section>
  )
}
