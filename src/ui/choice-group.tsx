'use client'
import { ToggleGroup } from 'radix-ui'
import type { ComponentProps, ReactNode } from 'react'

/** A few choices side by side, of which one or none is taken. Arrow keys go along, Space takes and gives back. */
export function ChoiceGroup<T extends string>({
  label,
  choices,
  value,
  onChange,
  disabled = false,
  small = false,
  children = (choice) => choice,
  ...rest
}: {
  label: string
  choices: readonly T[]
  value: T | null
  onChange: (value: T | null) => void
  disabled?: boolean
  small?: boolean
  /** How a choice is written. */
  children?: (choice: T) => ReactNode
} & Pick<ComponentProps<'div'>, 'onKeyDown'>) {
  const size = small
    ? 'h-6 w-7 pointer-coarse:h-11 pointer-coarse:w-11'
    : 'min-h-7 px-3 pointer-coarse:min-h-11'
  return (
    <ToggleGroup.Root
      type="single"
      role="radiogroup"
      aria-label={label}
      value={value ?? ''}
      onValueChange={(next) => onChange((next || null) as T | null)}
      disabled={disabled}
      className={`inline-flex ${small ? 'flex-nowrap' : 'flex-wrap'}`}
      {...rest}
    >
      {choices.map((choice) => (
        <ToggleGroup.Item
          key={choice}
          value={choice}
          className={`border border-l-0 border-line bg-panel first:rounded-l-[3px] first:border-l last:rounded-r-[3px] data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-panel ${size}`}
        >
          {children(choice)}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
