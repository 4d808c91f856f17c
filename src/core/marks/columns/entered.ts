import { hundredths } from '@/core/marks/rational'
import { limits } from '@/core/limits'
import { isCalculated, type Column, type EnteredColumn } from './column'
import type { PartValue, Source } from './evaluate'

/** What stands in a column that is entered by hand counts as in a formula. */
export function valueOfEntry(column: EnteredColumn, entry: string | null): PartValue | undefined {
  if (entry === null) return { value: undefined }
  const text = column.does === 'number' ? entry : column.choices.find((c) => c.name === entry)?.value
  return { value: text == null ? undefined : { num: BigInt(hundredths(text)), den: 100n } }
}

/** What columns that are entered by hand count as for a student, beside another source. */
export const withEntered =
  (
    columns: readonly Column[],
    entryOf: (columnId: string) => string | undefined | null,
    other: Source,
  ): Source =>
  (operand) => {
    const column = operand.of === 'column' ? columns.find((c) => c.id === operand.id) : undefined
    return column && !isCalculated(column) ? valueOfEntry(column, entryOf(column.id) ?? null) : other(operand)
  }

type ReadEntry =
  { readonly ok: true; readonly value: string | null } | { readonly ok: false; readonly problem: string }

/**
 * Reads what was typed into a column that is entered by hand: a number, or the beginning of one choice's name. An empty
 * text empties it.
 */
export function readTypedEntry(typed: string, column: EnteredColumn): ReadEntry {
  const text = typed.trim()
  if (text === '') return { ok: true, value: null }
  if (column.does === 'number') {
    const number = text.replace(',', '.')
    if (!/^\d{1,5}(\.\d{1,2})?$/.test(number) || Number(number) > Number(limits.points))
      return {
        ok: false,
        problem: `${text} is not a number from 0 to ${limits.points}, with at most two decimals.`,
      }
    return {
      ok: true,
      value: number
        .replace(/^0+(?=\d)/, '')
        .replace(/(\.\d*?)0+$/, '$1')
        .replace(/\.$/, ''),
    }
  }
  // Blanks within a name need not be typed.
  const plain = (name: string) => name.toLowerCase().replace(/\s/g, '')
  const exact = column.choices.find((c) => plain(c.name) === plain(text))
  const begin = column.choices.filter((c) => plain(c.name).startsWith(plain(text)))
  const [first] = begin
  if (exact) return { ok: true, value: exact.name }
  if (first && begin.length === 1) return { ok: true, value: first.name }
  const names = (begin.length > 1 ? begin : column.choices).map((c) => c.name).join(', ')
  return {
    ok: false,
    problem:
      begin.length > 1 ? `${text} could be ${names}. Type more of it.` : `${text} is none of ${names}.`,
  }
}
