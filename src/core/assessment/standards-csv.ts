import { limits } from '@/core/limits'
import { inTree, standardName, type ReadStandards, type Standard } from './standards'

/** The heads of a file of standards, in either of their names. */
const heads = {
  code: ['code', 'humancodingscheme'],
  statement: ['statement', 'fullstatement'],
  parent: ['parent', 'under'],
  years: ['years', 'educationlevel'],
} as const

/**
 * Reads rows with a head: `statement`, and where there are any `code`, `parent` (the code it stands under) and `years`
 * (such as `07 08`).
 * @param name of the file, which names the set
 */
export function readStandardRows(rows: readonly (readonly string[])[], name: string): ReadStandards {
  const [first = [], ...others] = rows
  const titles = first.map((title) => title.replace(/[\s_]/g, '').toLowerCase())
  const at = (head: keyof typeof heads) =>
    titles.findIndex((title) => heads[head].some((one) => one === title))
  const [code, statement, parent, years] = [at('code'), at('statement'), at('parent'), at('years')]
  if (statement < 0)
    return {
      problems: [
        'The first row must name the columns: code, statement, parent, years. There is no statement.',
      ],
    }
  if (others.length > limits.standards)
    return {
      problems: [`This file has ${others.length} rows; at most ${limits.standards} can be read at once.`],
    }
  const problems: string[] = []
  const byCode = new Map<string, string>()
  const read = others.map((row, i) => {
    const line = i + 2
    const cell = (column: number, longest: number, what: string) => {
      const text = (column < 0 ? '' : (row[column] ?? '')).replace(/\s+/g, ' ').trim()
      if (text.length > longest) problems.push(`Row ${line}: ${what} has more than ${longest} characters.`)
      return text.slice(0, longest)
    }
    const own = cell(code, limits.standardCode, 'the code')
    const words = cell(statement, limits.statement, 'the statement')
    if (words === '') problems.push(`Row ${line} has no statement.`)
    if (own !== '' && byCode.has(own)) problems.push(`Row ${line}: the code ${own} appears twice.`)
    const id = `row ${line}`
    if (own !== '') byCode.set(own, id)
    return {
      id,
      line,
      code: own || null,
      statement: words,
      under: cell(parent, limits.standardCode, 'the parent'),
      years: [
        ...new Set(
          cell(years, limits.name, 'the years')
            .split(/[\s,;]+/)
            .filter((y) => /^[A-Za-z0-9]{1,8}$/.test(y)),
        ),
      ].slice(0, limits.standardYears),
    }
  })
  const standards = read.map(({ id, line, under, ...rest }): Standard => {
    const parentId = under === '' ? null : (byCode.get(under) ?? null)
    if (under !== '' && parentId === null)
      problems.push(`Row ${line}: there is no code ${under} to stand under.`)
    return { ...rest, id, parentId, source: null }
  })
  if (standards.length === 0) problems.push('There are no rows in this file.')
  const { placed, left } = inTree(standards)
  for (const standard of left) problems.push(`${standardName(standard)} stands under itself.`)
  return problems.length > 0
    ? { problems }
    : {
        set: {
          name: name.replace(/\.csv$/i, '').slice(0, limits.name),
          source: null,
          standards: placed.map((p) => p.standard),
        },
      }
}
