'use client'
import { ToggleGroup } from 'radix-ui'
import { Select } from '@/ui/field'
import { ChoiceCount } from './choices-field'
import type { KeyFieldProps } from './key-field-props'

const rules = {
  'all or nothing': 'all points or none',
  'each right less each wrong': 'right less wrong, never below 0',
} as const

/** The key of a question with several right choices, and the rule for answers that are right in part. */
export function SeveralField({ position, content, disabled, onChange }: KeyFieldProps<'several choices'>) {
  const { choices, right, rule } = content
  return (
    <span className="grid gap-1">
      <span className="flex items-center gap-2">
        <ToggleGroup.Root
          type="multiple"
          aria-label={`Key of question ${position}`}
          value={[...right]}
          disabled={disabled}
          onValueChange={(next) =>
            onChange(
              { ...content, right: choices.filter((c) => next.includes(c)) },
              `key ${next.length > 0 ? next.join('+') : 'removed'}`,
            )
          }
          className="inline-flex flex-nowrap"
        >
          {choices.map((choice) => (
            <ToggleGroup.Item
              key={choice}
              value={choice}
              className="h-6 w-7 border border-l-0 border-line bg-panel first:rounded-l-[3px] first:border-l last:rounded-r-[3px] data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-panel pointer-coarse:h-11 pointer-coarse:w-11"
            >
              {choice}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
        <ChoiceCount
          position={position}
          count={choices.length}
          disabled={disabled}
          onChange={(next) =>
            onChange(
              { ...content, choices: next, right: right.filter((c) => next.includes(c)) },
              `${next.length} choices`,
            )
          }
        />
      </span>
      <Select
        aria-label={`Rule of question ${position}`}
        disabled={disabled}
        className="min-h-6! max-w-64 py-0! text-[12px]"
        value={rule}
        onChange={(e) => onChange({ ...content, rule: e.target.value as typeof rule }, e.target.value)}
      >
        {Object.entries(rules).map(([name, words]) => (
          <option key={name} value={name}>
            {words}
          </option>
        ))}
      </Select>
    </span>
  )
}
