'use client'
import { useState } from 'react'
import { TextInput } from '@/ui/field'

/** A small field of a table whose text is kept only while it makes sense; until then it says that it does not yet. */
export function TypedField({
  label,
  value,
  check,
  onChange,
  className = '',
  ...rest
}: {
  label: string
  value: string
  /** The text as it is kept; undefined where it makes no sense. */
  check: (text: string) => string | undefined
  onChange: (text: string) => void
  className?: string
  disabled?: boolean
  inputMode?: 'decimal' | 'text'
  placeholder?: string
}) {
  const [text, setText] = useState<string>()
  const shown = text ?? value
  return (
    <TextInput
      {...rest}
      aria-label={label}
      aria-invalid={check(shown) === undefined || undefined}
      autoComplete="off"
      className={`min-h-6! py-0! ${className}`}
      value={shown}
      onChange={(e) => {
        setText(e.target.value)
        const kept = check(e.target.value)
        if (kept !== undefined) onChange(kept)
      }}
      onBlur={() => setText((now) => (now !== undefined && check(now) === undefined ? now : undefined))}
    />
  )
}
