'use client'
import type { ReactNode } from 'react'
import type { ContentOf, Keyed, KindName } from '@/core/assessment/kinds'
import { limits } from '@/core/limits'
import { TextArea, TextInput } from '@/ui/field'

/** What somebody has answered so far: as the kind has it, or null. */
export type Answer = string | boolean | readonly string[] | null

export interface AnswerFieldProps<Content> {
  /** Names the field to screen readers: "Answer to question 3". */
  readonly label: string
  readonly content: Content
  readonly answer: Answer
  readonly disabled: boolean
  readonly onAnswer: (answer: Answer) => void
}

const mark =
  'inline-flex min-h-9 min-w-11 cursor-pointer items-center gap-2 rounded-[3px] border border-line bg-panel px-3 has-checked:border-ink has-checked:bg-ink has-checked:font-bold has-checked:text-panel has-focus-visible:outline-2 has-focus-visible:outline-magenta pointer-coarse:min-h-11'

/** A choice to tick, of which one counts or several. */
function Mark({
  type,
  name,
  words,
  checked,
  disabled,
  onChange,
}: {
  type: 'radio' | 'checkbox'
  name: string
  words: string
  checked: boolean
  disabled: boolean
  onChange: (checked: boolean) => void
}) {
  return (
    <label className={mark}>
      <input
        type={type}
        name={name}
        className="accent-ink"
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
      />
      {words}
    </label>
  )
}

const Marks = ({ label, children }: { label: string; children: ReactNode }) => (
  <span role="group" aria-label={label} className="flex flex-wrap gap-2">
    {children}
  </span>
)

function OneChoice({
  label,
  content,
  answer,
  disabled,
  onAnswer,
}: AnswerFieldProps<ContentOf<'one choice'>>) {
  return (
    <Marks label={label}>
      {content.choices.map((choice) => (
        <Mark
          key={choice}
          type="radio"
          name={label}
          words={choice}
          checked={answer === choice}
          disabled={disabled}
          onChange={() => onAnswer(choice)}
        />
      ))}
    </Marks>
  )
}

function SeveralChoices({
  label,
  content,
  answer,
  disabled,
  onAnswer,
}: AnswerFieldProps<ContentOf<'several choices'>>) {
  const chosen = Array.isArray(answer) ? (answer as readonly string[]) : []
  return (
    <>
      <span className="mb-1 block text-[13px] text-muted">Several answers can be right.</span>
      <Marks label={label}>
        {content.choices.map((choice) => (
          <Mark
            key={choice}
            type="checkbox"
            name={label}
            words={choice}
            checked={chosen.includes(choice)}
            disabled={disabled}
            onChange={(checked) => {
              const next = content.choices.filter((c) => (c === choice ? checked : chosen.includes(c)))
              onAnswer(next.length > 0 ? next : null)
            }}
          />
        ))}
      </Marks>
    </>
  )
}

function Truth({ label, answer, disabled, onAnswer }: AnswerFieldProps<ContentOf<'true or false'>>) {
  return (
    <Marks label={label}>
      {([true, false] as const).map((value) => (
        <Mark
          key={String(value)}
          type="radio"
          name={label}
          words={value ? 'true' : 'false'}
          checked={answer === value}
          disabled={disabled}
          onChange={() => onAnswer(value)}
        />
      ))}
    </Marks>
  )
}

const textOf = (answer: Answer) => (typeof answer === 'string' ? answer : '')

function NumberAnswer({ label, content, answer, disabled, onAnswer }: AnswerFieldProps<ContentOf<'number'>>) {
  return (
    <span className="flex items-center gap-2">
      <TextInput
        aria-label={label}
        inputMode="text"
        maxLength={limits.shortResponse}
        disabled={disabled}
        className="w-40!"
        value={textOf(answer)}
        onChange={(e) => onAnswer(e.target.value || null)}
      />
      {content.unit}
    </span>
  )
}

function ShortText({ label, answer, disabled, onAnswer }: AnswerFieldProps<ContentOf<'short text'>>) {
  return (
    <TextInput
      aria-label={label}
      maxLength={limits.shortResponse}
      disabled={disabled}
      value={textOf(answer)}
      onChange={(e) => onAnswer(e.target.value || null)}
    />
  )
}

function Written({ label, answer, disabled, onAnswer }: AnswerFieldProps<ContentOf<'written'>>) {
  return (
    <TextArea
      aria-label={label}
      rows={6}
      maxLength={limits.writtenResponse}
      disabled={disabled}
      value={textOf(answer)}
      onChange={(e) => onAnswer(e.target.value || null)}
    />
  )
}

/** The field of each kind of question, for whoever answers it. */
const fields: { readonly [K in KindName]: (props: AnswerFieldProps<ContentOf<K>>) => ReactNode } = {
  'one choice': OneChoice,
  'several choices': SeveralChoices,
  'true or false': Truth,
  number: NumberAnswer,
  'short text': ShortText,
  written: Written,
}

/** A question's field for answering it. */
export function AnswerField({
  asked,
  ...props
}: { asked: Keyed } & Omit<AnswerFieldProps<never>, 'content'>) {
  const Field = fields[asked.kind] as (props: AnswerFieldProps<unknown>) => ReactNode
  return <Field {...props} content={asked.content} />
}
