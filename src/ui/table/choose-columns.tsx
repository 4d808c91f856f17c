'use client'
import { Popover } from 'radix-ui'
import { buttonLooks } from '@/ui/button'
import { Tick } from '@/ui/field'
import type { Column, TableView } from './data-table'

/** Which columns are shown; the one that names the rows always is. Opens over the page and moves nothing. */
export function ChooseColumns<T>({ columns, view }: { columns: readonly Column<T>[]; view: TableView }) {
  const choices = columns.filter((c) => !c.heading && !c.quiet)
  if (choices.length < 3) return null
  return (
    <Popover.Root>
      <Popover.Trigger className={`${buttonLooks('plain')} max-sm:hidden`}>Columns</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Columns shown"
          className="z-30 grid rounded-[3px] border border-ink bg-panel px-4 py-2 shadow-lg"
        >
          {choices.map((c) => (
            <Tick
              key={c.id}
              label={c.title}
              checked={!view.hidden.includes(c.id)}
              onChange={(e) =>
                view.onHide(e.target.checked ? view.hidden.filter((x) => x !== c.id) : [...view.hidden, c.id])
              }
            />
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
