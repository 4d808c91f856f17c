'use client'
import { DayPicker } from 'react-day-picker'
import { enGB } from 'react-day-picker/locale/en-GB'

const pad = (n: number) => String(n).padStart(2, '0')
const toDate = (text: string) => {
  const [year = 0, month = 1, day = 1] = text.split('-').map(Number)
  return new Date(year, month - 1, day)
}
const toText = (date: Date) => `${date.getFullYear()}-${pad(date.getMonth() + 1)}-${pad(date.getDate())}`

/** A month to choose a day from; weeks begin on Monday. */
export function DateCalendar({
  value,
  today,
  onChoose,
}: {
  /** A civil date, or undefined while there is none. */
  value: string | undefined
  today: string
  onChoose: (date: string) => void
}) {
  return (
    <DayPicker
      mode="single"
      locale={enGB}
      captionLayout="dropdown"
      startMonth={new Date(toDate(today).getFullYear() - 25, 0)}
      endMonth={new Date(toDate(today).getFullYear() + 3, 11)}
      today={toDate(today)}
      selected={value ? toDate(value) : undefined}
      defaultMonth={toDate(value ?? today)}
      onSelect={(date) => date && onChoose(toText(date))}
      classNames={{
        root: 'relative',
        month_caption: 'mb-2 flex justify-center gap-2 pr-16',
        dropdowns: 'flex gap-2',
        dropdown: 'border border-line bg-panel px-1 py-[2px]',
        dropdown_root: 'relative',
        caption_label: 'hidden',
        nav: 'absolute top-0 right-0 flex gap-1',
        button_previous: 'min-h-6 min-w-6 border border-line bg-panel',
        button_next: 'min-h-6 min-w-6 border border-line bg-panel',
        chevron: 'mx-auto size-3 fill-ink',
        weekday: 'w-9 text-center text-[12px]',
        day: 'p-0 text-center',
        day_button: 'size-9 rounded-[3px] hover:bg-shoal-light',
        selected: '[&>button]:bg-ink [&>button]:font-bold [&>button]:text-panel [&>button]:hover:bg-ink',
        today: 'font-bold text-magenta',
        outside: 'text-muted',
      }}
    />
  )
}
