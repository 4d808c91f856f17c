'use client'
import { useRef, useState, type KeyboardEvent } from 'react'
import { shortDate } from '@/core/calendar/date-words'
import { isCivilDate } from '@/core/calendar/school-year'
import { Field, TextArea, TextInput } from '@/ui/field'
import { DateInput } from '@/screen/date-input'
import { useBeforeLeaving } from '@/screen/saving'
import { FieldConflict } from './conflicts'
import type { Fields, FieldValue } from './use-fields'

interface Props {
  readonly of: Fields
  readonly name: string
  readonly label: string
  readonly help?: string
  readonly kind?: 'line' | 'text' | 'date'
  /** Whether it may be changed; else it is shown as text. */
  readonly open: boolean
  readonly className?: string
}

const spoken = (kind: Props['kind'], value: FieldValue) =>
  kind === 'date' && value && isCivilDate(value) ? shortDate(value, true) : value

/** A value that cannot be changed here. */
function Shown({ label, value }: { label: string; value: FieldValue }) {
  return (
    <div className="grid content-start gap-1">
      <span className="text-[13px] font-bold">{label}</span>
      <span className="min-h-8 py-1 whitespace-pre-wrap">
        {value ?? (
          <span className="text-muted">
            <span aria-hidden>–</span>
            <span className="sr-only">not entered</span>
          </span>
        )}
      </span>
    </div>
  )
}

/**
 * One field of a record, edited where it stands: saved when it is left or with Enter, given back with Esc. What cannot
 * be saved stays in the field with the reason under it.
 */
export function EditField({ of, name, label, help, kind = 'line', open, className }: Props) {
  const [draft, setDraft] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const latest = useRef<string>(undefined)
  const change = (text: string | undefined) => {
    latest.current = text
    setDraft(text)
    if (text === undefined || problem) setProblem(undefined)
    if (text !== undefined) of.begin(name)
  }
  function commit() {
    const typed = latest.current
    if (typed === undefined) return
    const read = of.schema(name)?.safeParse(typed)
    if (read && !read.success) return setProblem(read.error.issues[0]?.message)
    const value = (read ? read.data : typed) as FieldValue
    const shown = spoken(kind, value) ?? 'empty'
    of.save(name, value, `${label}: ${shown.length > 80 ? `${shown.slice(0, 80)}…` : shown}`)
    change(undefined)
  }
  useBeforeLeaving(commit)
  const conflict = <FieldConflict of={of} name={name} label={label} />
  if (!open)
    return (
      <div className={className}>
        <Shown label={label} value={spoken(kind, of.value(name))} />
        {conflict}
      </div>
    )
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === 'Enter' && kind !== 'text') {
      event.preventDefault()
      commit()
    } else if (event.key === 'Escape' && latest.current !== undefined) {
      event.stopPropagation()
      of.cancel(name)
      change(undefined)
    }
  }
  const value = draft ?? of.value(name) ?? ''
  const common = {
    'data-typing': draft === undefined ? undefined : 'yes',
    onKeyDown,
    onBlur: commit,
  }
  return (
    <Field label={label} help={help} problem={problem} className={className} after={conflict}>
      {(field) =>
        kind === 'date' ? (
          <span onKeyDown={onKeyDown}>
            <DateInput {...field} value={value} onChange={change} onBlur={commit} />
          </span>
        ) : kind === 'text' ? (
          <TextArea
            {...field}
            {...common}
            rows={2}
            className="field-sizing-content min-h-13"
            value={value}
            onChange={(e) => change(e.target.value)}
          />
        ) : (
          <TextInput
            {...field}
            {...common}
            autoComplete="off"
            value={value}
            onChange={(e) => change(e.target.value)}
          />
        )
      }
    </Field>
  )
}
