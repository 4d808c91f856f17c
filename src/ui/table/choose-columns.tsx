'use client'
import { buttonLooks } from '@/ui/button'
import { Tick } from '@/ui/field'
import type { Column, TableView } from './column'

/**
 * Which columns are shown; the one that names the rows always is. Opens over the page and moves nothing; closes with
 * Escape and when one goes elsewhere.
 */
export function ChooseColumns<T>({ columns, view }: { columns: readonly Column<T>[]; view: TableView }) {
  const choices = columns.filter((c) => !c.heading && !c.quiet)
  if (choices.length < 3) return null
  return (
    <details
      className="relative max-sm:hidden"
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) e.currentTarget.open = false
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || !e.currentTarget.open) return
        e.stopPropagation()
        e.currentTarget.open = false
        e.currentTarget.querySelector('summary')?.focus()
      }}
    >
      <summary className={`${buttonLooks('plain')} list-none`}>Columns</summary>
      {/* Takes the focus of a press between the boxes, which would close it otherwise. */}
      <div
        tabIndex={-1}
        role="group"
        aria-label="Columns shown"
        className="absolute top-full left-0 z-30 mt-1 grid rounded-[3px] border border-ink bg-panel px-4 py-2 whitespace-nowrap shadow-lg outline-none"
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
      </div>
    </details>
  )
}
