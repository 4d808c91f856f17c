import { fromHundredths, hundredths } from './rational'
import type { CellEntry, ScoreEntry } from './gradebook'

/** What a typed or pasted cell means. */
export type TypedScore =
  | { readonly ok: true; readonly entry: ScoreEntry | undefined }
  | { readonly ok: false; readonly problem: string }

const words: Readonly<Record<string, ScoreEntry>> = {
  m: { kind: 'missing' },
  missing: { kind: 'missing' },
  e: { kind: 'excused' },
  x: { kind: 'excused' },
  ex: { kind: 'excused' },
  excused: { kind: 'excused' },
  i: { kind: 'incomplete' },
  inc: { kind: 'incomplete' },
  incomplete: { kind: 'incomplete' },
}

/** A number and what it is said to be out of, with an L before or after it where it was late. */
const pattern = /^(l|late)?\s*(-?[\d.,]+)\s*(?:\/\s*([\d.,]+))?\s*(l|late)?$/

const refused = (problem: string): TypedScore => ({ ok: false, problem })

/**
 * Reads one cell: a number with at most two decimals (comma or point), also as `9/10` or late as `9 l`; `m` or
 * `missing`, `e` or `excused`, `i` or `incomplete`; or nothing.
 * @param maxPoints the assignment's maximum, as a decimal text
 * @param there what stands in the cell: `l` alone makes its points late, or in time again
 */
export function readTypedScore(typed: string, maxPoints: string, there?: ScoreEntry): TypedScore {
  const shown = typed.trim()
  const text = shown.toLowerCase()
  if (text === '') return { ok: true, entry: undefined }
  const word = words[text]
  if (word) return { ok: true, entry: word }
  if (text === 'l' || text === 'late') {
    if (there?.kind !== 'points') return refused('Type the points too: 8 l is 8 points, late.')
    const { points, late } = there
    return { ok: true, entry: { kind: 'points', points, ...(late ? {} : { late: true }) } }
  }
  const [, before, number = '', outOf, after] = pattern.exec(text) ?? []
  const value = number.replace(',', '.')
  if (/^-/.test(value)) return refused(`${shown} is below zero. Type a score from 0 to ${maxPoints}.`)
  if (!/^\d*\.?\d*$/.test(value) || !/\d/.test(value))
    return refused(
      `"${shown}" is not a score. Type a number, with l where it was late, or m for missing, e for excused, i for incomplete.`,
    )
  if (!/^\d*(\.\d{0,2}0*)?$/.test(value)) return refused(`${shown} has more than two decimals.`)
  const [whole = '', fraction = ''] = value.split('.')
  if (whole.length > 9 || Number(value) > Number(maxPoints))
    return refused(`${shown} is over the maximum of ${maxPoints}.`)
  if (outOf !== undefined && Number(outOf.replace(',', '.')) !== Number(maxPoints))
    return refused(`${shown} is out of ${outOf}, but this assignment is out of ${maxPoints}.`)
  const points = fromHundredths(hundredths(`${whole || '0'}.${fraction || '0'}`))
  return { ok: true, entry: { kind: 'points', points, ...(before || after ? { late: true } : {}) } }
}

/** How an entry is written in a cell, and can be typed again. */
export function writeEntry(entry: CellEntry | undefined): string {
  if (entry === undefined) return ''
  if (entry.kind !== 'points') return entry.kind
  return entry.late ? `${entry.points} late` : entry.points
}
