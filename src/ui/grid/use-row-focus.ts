'use client'
import { useCallback, useRef } from 'react'
import { cellAt, stepped } from './grid'

/** Rows with a field of the browser's own in each: which field belongs to whom, and going from one to the next. */
export function useRowFocus<E extends HTMLElement>(ids: readonly string[]) {
  const fields = useRef(new Map<string, E | null>())
  const fieldOf = useCallback((id: string) => (field: E | null) => void fields.current.set(id, field), [])
  const focus = (id: string): boolean => {
    const field = fields.current.get(id)
    field?.focus()
    field?.scrollIntoView({ block: 'nearest' })
    if (field instanceof HTMLInputElement) field.select()
    return field != null
  }
  /** Goes so many rows on from where the focus is; answers whether there was a row. */
  const step = (by: number): boolean => {
    const at = ids.findIndex((id) => fields.current.get(id) === document.activeElement)
    if (at < 0) return false
    const shape = { rows: ids, columns: [''] }
    const next = stepped(cellAt(shape, at, 0), shape, [by, 0]).at.row
    return next !== ids[at] && focus(next)
  }
  return { fieldOf, focus, step }
}
