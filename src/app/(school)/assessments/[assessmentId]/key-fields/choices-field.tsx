'use client'
import { choiceLetters, firstChoices } from '@/core/assessment/kinds/choices'
import { ChoiceGroup } from '@/ui/choice-group'
import { TextInput } from '@/ui/field'
import type { KeyFieldProps } from './key-field-props'

/** How many choices a question has. */
export function ChoiceCount({
  position,
  count,
  disabled,
  onChange,
}: {
  position: number
  count: number
  disabled: boolean
  onChange: (choices: readonly string[]) => void
}) {
  return (
    <TextInput
      aria-label={`Choices of question ${position}`}
      title="Number of choices"
      type="number"
      min={2}
      max={choiceLetters.length}
      disabled={disabled}
      className="min-h-6! w-11! py-0! pr-0! text-right"
      value={count}
      onChange={(e) =>
        onChange(firstChoices(Math.min(choiceLetters.length, Math.max(2, Number(e.target.value) || 2))))
      }
    />
  )
}

/** The key of a question with one right choice: its letter. */
export function OneChoiceField({ position, content, disabled, onChange }: KeyFieldProps<'one choice'>) {
  const { choices, right } = content
  return (
    <span className="flex items-center gap-2">
      <ChoiceGroup
        small
        label={`Key of question ${position}`}
        choices={choices}
        value={right}
        disabled={disabled}
        onChange={(next) => onChange({ ...content, right: next }, `key ${next ?? 'removed'}`)}
      />
      <ChoiceCount
        position={position}
        count={choices.length}
        disabled={disabled}
        onChange={(next) =>
          onChange(
            { choices: next, right: right !== null && next.includes(right) ? right : null },
            `${next.length} choices`,
          )
        }
      />
    </span>
  )
}
