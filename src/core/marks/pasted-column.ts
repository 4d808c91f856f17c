import type { ScoreEntry } from './gradebook'
import { readTypedScore } from './typed-score'

export type PastedColumn =
  | { readonly ok: true; readonly entries: readonly (ScoreEntry | undefined)[] }
  | { readonly ok: false; readonly problems: readonly string[] }

/**
 * The lines of a copied column. Spreadsheets end the last line with a break, which begins no line of its own; but a
 * column whose last cell is empty ends with one as well.
 */
function linesOf(text: string, expected: number): readonly string[] {
  const lines = text.replace(/\r\n?/g, '\n').split('\n')
  return lines.length > expected && lines.at(-1) === '' ? lines.slice(0, -1) : lines
}

/**
 * Reads a column copied from a spreadsheet: one cell a line. It must have exactly as many lines as there are
 * students from the chosen cell down, and every cell must be readable; otherwise nothing is taken.
 * @param rows the names of the rows, from the selected cell down
 */
export function readPastedColumn(text: string, rows: readonly string[], maxPoints: string): PastedColumn {
  const lines = linesOf(text, rows.length)
  if (lines.some((line) => line.includes('\t')))
    return {
      ok: false,
      problems: ['More than one column was copied. Copy a single column of scores and paste again.'],
    }
  if (lines.length !== rows.length)
    return {
      ok: false,
      problems: [
        `${lines.length} values were copied, but there are ${rows.length} students from the selected cell down. ` +
          'Nothing was pasted. Copy one value for each student, or select the cell where the values begin.',
      ],
    }
  const read = lines.map((line) => readTypedScore(line, maxPoints))
  const problems = read.flatMap((r, i) => (r.ok ? [] : [`${rows[i]}: ${r.problem}`]))
  if (problems.length > 0) return { ok: false, problems: [...problems, 'Nothing was pasted.'] }
  return { ok: true, entries: read.map((r) => (r.ok ? r.entry : undefined)) }
}
