import type { KeyboardEvent } from 'react'

/** Moves the focus along the rows, to what opens each. */
export function onRowKey(event: KeyboardEvent<HTMLTableElement>): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const row = (event.target as HTMLElement).closest('tbody tr')
  if (by === 0 || !row || (event.target as HTMLElement).matches('input, select, textarea')) return
  let next = by > 0 ? row.nextElementSibling : row.previousElementSibling
  while (next && !next.querySelector('a, button'))
    next = by > 0 ? next.nextElementSibling : next.previousElementSibling
  const to = next?.querySelector<HTMLElement>('a, button')
  if (!to) return
  event.preventDefault()
  to.focus()
}
