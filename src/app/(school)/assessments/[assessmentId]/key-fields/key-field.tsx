'use client'
import type { ComponentType } from 'react'
import type { Keyed, KindName } from '@/core/assessment/kinds'
import type { KeyFieldProps } from './key-field-props'
import { OneChoiceField } from './choices-field'
import { NumberField } from './number-field'
import { SeveralField } from './several-field'
import { ShortTextField } from './short-text-field'
import { TruthField } from './truth-field'

const MarkedByHand = () => <span className="text-muted">marked by hand</span>

/** How the key of each kind of question is edited. A new kind is added here and in the core, and nowhere else. */
const fields: { readonly [N in KindName]: ComponentType<KeyFieldProps<N>> } = {
  'one choice': OneChoiceField,
  'several choices': SeveralField,
  'true or false': TruthField,
  number: NumberField,
  'short text': ShortTextField,
  written: MarkedByHand,
}

/** The key of a question, edited as its kind wants it. */
export function KeyField({
  asked,
  onChange,
  ...rest
}: {
  asked: Keyed
  position: number
  disabled: boolean
  onChange: (asked: Keyed, words: string) => void
}) {
  // Which content a kind has is known of each pair, not of the list.
  const Field = fields[asked.kind] as ComponentType<KeyFieldProps<KindName>>
  return (
    <Field
      {...rest}
      content={asked.content}
      onChange={(content, words) => onChange({ kind: asked.kind, content } as Keyed, words)}
    />
  )
}
