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
  excused: { kind: 'excused' },
}

/**
 * Reads one cell: a number with at most two decimals (comma or point), `m` or `missing`, `e` or `excused`, or nothing.
 * @param maxPoints the assignment's maximum, as a decimal text
 */
export function readTypedScore(typed: string, maxPoints: string): TypedScore {
  const text = typed.trim().toLowerCase()
  if (text === '') return { ok: true, entry: undefined }
  const word = words[text]
  if (word) return { ok: true, entry: word }
  const number = text.replace(',', '.')
  if (/^-/.test(number))
    return { ok: false, problem: `${typed.trim()} is below zero. Type a score from 0 to ${maxPoints}.` }
  if (!/^\d*\.?\d*$/.test(number) || !/\d/.test(number))
    return {
      ok: false,
      problem: `"${typed.trim()}" is not a score. Type a number, m for missing or e for excused.`,
    }
  if (!/^\d*(\.\d{0,2}0*)?$/.test(number))
    return { ok: false, problem: `${typed.trim()} has more than two decimals.` }
  if (Number(number) > Number(maxPoints))
    return { ok: false, problem: `${typed.trim()} is over the maximum of ${maxPoints}.` }
  const [whole = '', fraction = ''] = number.split('.')
  const decimals = fraction.replace(/0+$/, '')
  return {
    ok: true,
    entry: {
      kind: 'points',
      points: `${whole.replace(/^0+(?=\d)/, '') || '0'}${decimals && `.${decimals}`}`,
    },
  }
}

/** How an entry is written in a cell. */
export function writeEntry(entry: CellEntry | undefined): string {
  return entry === undefined ? '' : entry.kind === 'points' ? entry.points : entry.kind
}
