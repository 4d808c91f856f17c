'use client'
import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual'
import { useMemo, type RefObject } from 'react'
import { usePrinting } from '@/ui/use-printing'

/** Widths in pixels: an assignment's column, the term mark, the grade. */
export const columnWidth = 66
export const markWidth = 62
export const gradeWidth = 56
/** The height of the grid's head, and of a row where it is used by finger. */
export const headHeight = 76
export const touchHeight = 44

// The columns drawn change in steps of this many, so that walking along a row draws new ones seldom.
const step = 4

function inSteps(range: Range): number[] {
  const startIndex = Math.floor(range.startIndex / step) * step
  const endIndex = Math.min(range.count - 1, Math.ceil((range.endIndex + 1) / step) * step - 1)
  return defaultRangeExtractor({ ...range, startIndex, endIndex, overscan: 2 })
}

/** The columns that are drawn, and the room of those left out before and after them, in pixels. */
export interface Columns {
  readonly drawn: readonly number[]
  readonly before: number
  readonly after: number
}

/** The columns of a wide grid that are in view, and a little more: the rest is room. */
export function useColumns(
  grid: RefObject<HTMLDivElement | null>,
  count: number,
  nameWidth: number,
): Columns & { readonly reveal: (column: number) => void } {
  const printing = usePrinting()
  const virtualizer = useVirtualizer({
    horizontal: true,
    count,
    getScrollElement: () => grid.current,
    estimateSize: () => columnWidth,
    rangeExtractor: inSteps,
    // What the server draws, before anybody knows how wide the window is.
    initialRect: { width: 1000, height: 600 },
    paddingStart: nameWidth,
    scrollPaddingStart: nameWidth,
    scrollPaddingEnd: markWidth + gradeWidth,
  })
  const items = virtualizer.getVirtualItems()
  const first = printing ? 0 : (items[0]?.index ?? 0)
  const last = printing ? count - 1 : (items.at(-1)?.index ?? -1)
  const columns = useMemo(
    () => ({
      drawn: Array.from({ length: last - first + 1 }, (_, i) => first + i),
      before: first * columnWidth,
      after: (count - 1 - last) * columnWidth,
    }),
    [first, last, count],
  )
  return { ...columns, reveal: (column) => virtualizer.scrollToIndex(column, { align: 'auto' }) }
}
