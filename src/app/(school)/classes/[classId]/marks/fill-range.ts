import type { KeyboardEvent } from 'react'
import type { Range } from './use-range'

/** What several chosen cells get: nothing, what the first row or column of them has, or one text. */
export type Fill = 'empty' | 'down' | 'right' | { readonly text: string }

/** What was done to the cells, in words. */
export const fillWords = (fill: Fill): string =>
  typeof fill === 'object' ? 'filled in' : fill === 'empty' ? 'emptied' : `filled ${fill}`

/** The text that each of the chosen cells gets. */
export function filled(
  { rows, columns }: Range,
  fill: Fill,
  textAt: (row: string, column: string) => string,
): readonly { readonly row: string; readonly column: string; readonly text: string }[] {
  const [firstRow = ''] = rows
  const [firstColumn = ''] = columns
  const textFor = (row: string, column: string) =>
    typeof fill === 'object'
      ? fill.text
      : fill === 'empty'
        ? ''
        : fill === 'down'
          ? textAt(firstRow, column)
          : textAt(row, firstColumn)
  return rows.flatMap((row) => columns.map((column) => ({ row, column, text: textFor(row, column) })))
}

/**
 * What a key asks for in chosen cells; undefined for keys that have nothing to do with them.
 * @param typed what is being typed in the cell of the cursor
 */
export function fillOfKey(event: KeyboardEvent, typed: string | undefined): Fill | undefined {
  const isCommand = event.ctrlKey || event.metaKey
  if (typed !== undefined) return isCommand && event.key === 'Enter' ? { text: typed } : undefined
  if (event.key === 'Backspace' || event.key === 'Delete') return 'empty'
  const key = event.key.toLowerCase()
  if (isCommand && key === 'd') return 'down'
  return isCommand && key === 'r' ? 'right' : undefined
}
