'use client'
import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react'
import { usePrinting } from '@/ui/use-printing'

/** Tables up to this long are drawn whole, so that the browser's own search finds everything in them. */
const whole = 120
/** A row's height in pixels, before any is measured. */
const rowHeight = 31

/** The rows of a long table that are in view and some around them, with the room of the others; all when it is short or printed. */
export function useRowsInView(count: number) {
  const ref = useRef<HTMLTableElement>(null)
  const printing = usePrinting()
  const [top, setTop] = useState(0)
  const [height, setHeight] = useState(rowHeight)
  const all = printing || count <= whole
  useLayoutEffect(() => {
    const table = ref.current
    if (!table || all) return
    setTop(table.getBoundingClientRect().top + window.scrollY)
    const row = table.querySelector('tbody tr[aria-rowindex]')
    if (row) setHeight(row.getBoundingClientRect().height)
  }, [all, count])
  const virtualizer = useWindowVirtualizer({
    count,
    estimateSize: () => height,
    overscan: 20,
    scrollMargin: top,
    initialRect: { width: 1000, height: 900 },
    enabled: !all,
  })
  const items = virtualizer.getVirtualItems()
  const first = all ? 0 : (items[0]?.index ?? 0)
  const last = all ? count - 1 : (items.at(-1)?.index ?? Math.min(count, 60) - 1)
  return useMemo(
    () => ({
      ref,
      drawn: Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i),
      before: first * height,
      after: (count - 1 - last) * height,
    }),
    [first, last, count, height],
  )
}

/**
 * Scrolls to a row once, when the table is first shown.
 * @param index of the row; negative where there is none
 */
export function useScrolledTo(ref: RefObject<HTMLTableElement | null>, index: number): void {
  const isDone = useRef(false)
  useEffect(() => {
    const table = ref.current
    if (index < 0 || isDone.current || !table) return
    isDone.current = true
    const row = table.querySelector(`tr[aria-rowindex="${index + 2}"]`)
    if (row) row.scrollIntoView({ block: 'center' })
    else
      window.scrollTo({ top: table.getBoundingClientRect().top + window.scrollY + index * rowHeight - 300 })
  }, [ref, index])
}
