'use client'
import { useRef, useState, type KeyboardEvent, type Ref } from 'react'
import { readDate, shortDate } from '@/core/calendar/date-words'
import { addDays, isCivilDate } from '@/core/calendar/school-year'
import { TextInput } from '@/ui/field'
import { later } from './later'
import { useSchool } from './school-context'

const DatePopover = later(() => import('./date-popover').then((m) => m.DatePopover))

const steps: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, PageUp: 7, PageDown: -7 }

/**
 * A date as people type it, day before month (`3 Apr 2014`, `3/4/14`, `tomorrow`), shown in words when the field is
 * left, so that day and month cannot be mistaken. The arrow keys go by days, Page up and Page down by weeks; Alt and
 * the down arrow open a calendar.
 * @param value a civil date, or what was typed while it is none
 * @param onChange called with the civil date, or with the text while it is none
 */
export function DateInput({
  value,
  onChange,
  inputRef,
  onBlur,
  ...field
}: {
  value: string
  onChange: (value: string) => void
  inputRef?: Ref<HTMLInputElement>
  onBlur?: () => void
  id?: string
  'aria-label'?: string
  'aria-invalid'?: true
  'aria-describedby'?: string
}) {
  const { year, today } = useSchool()
  const [typed, setTyped] = useState<string>()
  const [open, setOpen] = useState(false)
  const whole = useRef<HTMLDivElement>(null)
  const read = (text: string) => readDate(text, today, year?.firstDay ?? today, year?.lastDay ?? today)

  function onKeyDown(event: KeyboardEvent) {
    if (event.altKey && event.key === 'ArrowDown') {
      event.preventDefault()
      return setOpen(true)
    }
    const step = steps[event.key]
    if (step === undefined || !isCivilDate(value)) return
    event.preventDefault()
    setTyped(undefined)
    onChange(addDays(value, step))
  }
  return (
    <div className="relative" ref={whole}>
      <TextInput
        {...field}
        ref={inputRef}
        autoComplete="off"
        placeholder="day month year"
        className="pr-7"
        value={typed ?? (isCivilDate(value) ? shortDate(value, true) : value)}
        onChange={(e) => {
          setTyped(e.target.value)
          onChange(read(e.target.value) ?? e.target.value)
        }}
        onFocus={(e) => e.target.select()}
        onBlur={() => {
          setTyped(undefined)
          onBlur?.()
        }}
        onKeyDown={onKeyDown}
      />
      <button
        type="button"
        tabIndex={-1}
        title="Choose from a calendar (Alt and down arrow)"
        aria-haspopup="dialog"
        aria-expanded={open}
        className="absolute inset-y-0 right-0 w-7 text-muted hover:text-ink pointer-coarse:w-11"
        onClick={() => setOpen(!open)}
      >
        <span aria-hidden>▾</span>
        <span className="sr-only">Calendar{field['aria-label'] && `, ${field['aria-label']}`}</span>
      </button>
      {open && (
        <DatePopover
          field={whole}
          value={isCivilDate(value) ? value : undefined}
          today={today}
          onChoose={(date) => {
            setTyped(undefined)
            onChange(date)
            setOpen(false)
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </div>
  )
}
