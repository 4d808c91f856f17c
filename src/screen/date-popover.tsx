'use client'
import { Popover } from 'radix-ui'
import type { RefObject } from 'react'
import { DateCalendar } from '@/ui/date-calendar'

/** The calendar of a date field, under it; fetched when it is first opened. Gives the focus back to the field. */
export function DatePopover({
  field,
  onClose,
  ...calendar
}: {
  /** What holds the field and the button that opens this. */
  field: RefObject<HTMLElement | null>
  value: string | undefined
  today: string
  onChoose: (date: string) => void
  onClose: () => void
}) {
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={field as RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Calendar"
          className="z-50 rounded-[4px] border border-ink bg-panel p-3 shadow-lg"
          onOpenAutoFocus={(e) => {
            e.preventDefault()
            const grid = (e.currentTarget as HTMLElement).querySelector('[role=grid]')
            grid?.querySelector<HTMLElement>('[tabindex="0"]')?.focus()
          }}
          // The button closes it by itself.
          onInteractOutside={(e) => field.current?.contains(e.target as Node) && e.preventDefault()}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            if (document.activeElement === document.body) field.current?.querySelector('input')?.focus()
          }}
        >
          <DateCalendar {...calendar} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
