'use client'
import { useCallback, useMemo, useState } from 'react'
import type { At, Shape } from '@/ui/grid/grid'

/** Cells chosen together: whole rows by whole columns between two corners. */
export interface Range {
  /** Students and columns, in the order of the grid. */
  readonly rows: readonly string[]
  readonly columns: readonly string[]
}

const between = (all: readonly string[], a: string, b: string): readonly string[] => {
  const [from, to] = [all.indexOf(a), all.indexOf(b)].sort((x, y) => x - y)
  return from === undefined || from < 0 || to === undefined ? [] : all.slice(from, to + 1)
}

const steps: Readonly<Record<string, readonly [number, number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
}

/**
 * Several cells of a grid chosen at once, from an anchor to the cursor. One cell is no range.
 * @param head the row of the columns' names, which is in no range
 */
export function useRange(shape: Shape, at: At, head: string) {
  const [anchor, setAnchor] = useState<At>()
  const range = useMemo((): Range | undefined => {
    if (!anchor || (anchor.row === at.row && anchor.column === at.column)) return undefined
    const rows = between(shape.rows, anchor.row, at.row).filter((row) => row !== head)
    const columns = between(shape.columns, anchor.column, at.column)
    return rows.length * columns.length > 1 ? { rows, columns } : undefined
  }, [anchor, at, shape, head])
  /** The cell one step on that a range would reach to; undefined for other keys. */
  const reach = useCallback(
    (key: string): At | undefined => {
      const step = steps[key]
      if (!step) return undefined
      const row = shape.rows[shape.rows.indexOf(at.row) + step[0]]
      const column = shape.columns[shape.columns.indexOf(at.column) + step[1]]
      return row === undefined || column === undefined || row === head ? at : { row, column }
    },
    [shape, at, head],
  )
  const begin = useCallback(() => setAnchor((before) => before ?? at), [at])
  const clear = useCallback(() => setAnchor(undefined), [])
  return { range, reach, begin, clear }
}
