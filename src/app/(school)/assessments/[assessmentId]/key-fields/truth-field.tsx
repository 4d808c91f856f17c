'use client'
import { ChoiceGroup } from '@/ui/choice-group'
import type { KeyFieldProps } from './key-field-props'

/** The key of a statement: true or false. */
export function TruthField({ position, content, disabled, onChange }: KeyFieldProps<'true or false'>) {
  return (
    <ChoiceGroup
      label={`Key of question ${position}`}
      choices={['true', 'false']}
      value={content.right === null ? null : content.right ? 'true' : 'false'}
      disabled={disabled}
      onChange={(next) =>
        onChange({ right: next === null ? null : next === 'true' }, `key ${next ?? 'removed'}`)
      }
    />
  )
}
