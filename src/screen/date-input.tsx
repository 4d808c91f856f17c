'use client'
import { useState, type KeyboardEvent } from 'react'
import { readDate, shortDate } from '@/core/calendar/date-words'
import { addDays, isCivilDate } from '@/core/calendar/school-year'
import { TextInput } from '@/ui/field'
import { useSchool } from './school-context'

const steps: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, PageUp: 7, PageDown: -7 }

/**
 * A date as one types it, day before month (`3 Apr 2014`, `3/4/14`, `tomorrow`), shown in words once it is left, so
 * that day and month cannot be mistaken. The arrow keys go by days, Page up and Page down by weeks.
 * @param value a civil date, or what was typed while it is none
 * @param onChange called with the civil date, or with the text while it is none
 */
export function DateInput({
  value,
  onChange,
  ...field
}: {
  value: string
  onChange: (value: string) => void
  id?: string
  'aria-label'?: string
  'aria-invalid'?: true
  'aria-describedby'?: string
}) {
  const { year, today } = useSchool()
  const [typed, setTyped] = useState<string>()
  const read = (text: string) => readDate(text, today, year?.firstDay ?? today, year?.lastDay ?? today)

  function onKeyDown(event: KeyboardEvent) {
    const step = steps[event.key]
    if (step === undefined || !isCivilDate(value)) return
    event.preventDefault()
    setTyped(undefined)
    onChange(addDays(value, step))
  }
  return (
    <TextInput
      {...field}
      autoComplete="off"
      placeholder="day month year"
      value={typed ?? (isCivilDate(value) ? shortDate(value, true) : value)}
      onChange={(e) => {
        setTyped(e.target.value)
        onChange(read(e.target.value) ?? e.target.value)
      }}
      onFocus={(e) => e.target.select()}
      onBlur={() => setTyped(undefined)}
      onKeyDown={onKeyDown}
    />
  )
}
