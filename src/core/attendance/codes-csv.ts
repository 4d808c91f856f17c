import { checkCodeSet, meaningWords } from './code-set'
import { meanings, type Meaning } from './codes'

/** A code as a table of codes holds it. */
export interface CsvCode {
  readonly code: string
  readonly label: string
  readonly familyLabel: string
  readonly meaning: Meaning
  readonly needsMinutes: boolean
  readonly needsNote: boolean
  readonly officeOnly: boolean
}

const requires = ({ needsMinutes, needsNote }: Pick<CsvCode, 'needsMinutes' | 'needsNote'>) =>
  [needsMinutes && 'minutes', needsNote && 'note'].filter(Boolean).join(' and ')

/** The columns of a table of codes, on the screen and in its CSV file. */
export const codeColumns = [
  { id: 'code', title: 'Code', textOf: (c: Text) => c.code },
  { id: 'label', title: 'Label', textOf: (c: Text) => c.label },
  { id: 'familyLabel', title: 'Label for families', textOf: (c: Text) => c.familyLabel ?? '' },
  { id: 'meaning', title: 'Meaning', textOf: (c: Text) => meaningWords[c.meaning] },
  { id: 'requires', title: 'Requires', textOf: (c: Text) => requires(c) },
  { id: 'usedBy', title: 'Used by', textOf: (c: Text) => (c.officeOnly ? 'office' : 'everyone') },
] as const
type Text = Omit<CsvCode, 'familyLabel'> & { readonly familyLabel: string | null }

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/**
 * Reads a table of codes, its first row the titles of `codeColumns` in any order; further columns are ignored.
 * @returns the codes, or every row that cannot be read with the reason; never a part of them
 */
export function readCodesCsv(table: readonly (readonly string[])[]): {
  readonly codes: readonly CsvCode[]
  readonly problems: readonly string[]
} {
  const [titles = [], ...lines] = table
  const at = new Map(codeColumns.map((c) => [c.id, titles.findIndex((title) => same(title, c.title))]))
  const missing = codeColumns.filter(
    (c) => ['code', 'label', 'meaning'].includes(c.id) && at.get(c.id) === -1,
  )
  if (missing.length > 0)
    return {
      codes: [],
      problems: missing.map((c) => `The first row needs a column named ${c.title}.`),
    }
  if (lines.length === 0) return { codes: [], problems: ['The file has no rows below its titles.'] }
  const problems: string[] = []
  const codes = lines.map((line, i): CsvCode => {
    const cell = (id: (typeof codeColumns)[number]['id']) => line[at.get(id) ?? -1]?.trim() ?? ''
    const meaning = meanings.find((m) => same(m, cell('meaning')) || same(meaningWords[m], cell('meaning')))
    if (!meaning)
      problems.push(
        `Row ${i + 2}: "${cell('meaning')}" is not a meaning. Use ${meanings.map((m) => meaningWords[m]).join(', ')}.`,
      )
    return {
      code: cell('code').toUpperCase(),
      label: cell('label'),
      familyLabel: cell('familyLabel'),
      meaning: meaning ?? 'present',
      needsMinutes: /minutes/i.test(cell('requires')),
      needsNote: /note/i.test(cell('requires')),
      officeOnly: same(cell('usedBy'), 'office'),
    }
  })
  if (problems.length > 0) return { codes: [], problems }
  const wrong = checkCodeSet(codes).map(({ path: [i], message }) =>
    i === undefined ? message : `Row ${i + 2}: ${message}`,
  )
  return wrong.length > 0 ? { codes: [], problems: wrong } : { codes, problems: [] }
}
