import { limits } from '@/core/limits'
import { withoutDirection } from '@/core/direction'
import { inTree, standardName, type ReadStandards, type Standard, type StandardSet } from './standards'

// CASE 1.0 (1EdTech, Competencies and Academic Standards Exchange): a package is a document, its items, and
// associations between them, of which `isChildOf` makes the tree.

type Json = Readonly<Record<string, unknown>>

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const textOf = (value: unknown, longest: number): string =>
  typeof value === 'string'
    ? withoutDirection(value)
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, longest + 1)
    : ''
const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : [])
const identifier = (value: unknown): string => (isObject(value) ? textOf(value.identifier, limits.key) : '')

interface Item {
  readonly id: string
  readonly code: string | null
  readonly statement: string
  readonly years: readonly string[]
  readonly order: number
}

function readItem(value: unknown, place: number): Item | string {
  if (!isObject(value)) return `Item ${place} is not an item.`
  const id = textOf(value.identifier, limits.key)
  const statement = textOf(value.fullStatement, limits.statement)
  const code = textOf(value.humanCodingScheme, limits.standardCode)
  const named = code || id || String(place)
  if (id === '' || id.length > limits.key) return `Item ${place} has no identifier.`
  if (statement === '') return `${named} has no statement.`
  if (statement.length > limits.statement)
    return `The statement of ${named} has more than ${limits.statement} characters.`
  if (code.length > limits.standardCode)
    return `The code of ${named} has more than ${limits.standardCode} characters.`
  const years = listOf(value.educationLevel).flatMap((level) =>
    typeof level === 'string' && /^[A-Za-z0-9]{1,8}$/.test(level) ? [level] : [],
  )
  const order = typeof value.sequenceNumber === 'number' ? value.sequenceNumber : place
  return {
    id,
    code: code || null,
    statement,
    years: [...new Set(years)].slice(0, limits.standardYears),
    order,
  }
}

/** Which item stands under which, as the associations say, with their order among siblings. */
function readParents(
  associations: readonly unknown[],
): ReadonlyMap<string, { parent: string; order: number | undefined }> {
  const parents = new Map<string, { parent: string; order: number | undefined }>()
  for (const association of associations) {
    if (!isObject(association) || association.associationType !== 'isChildOf') continue
    const child = identifier(association.originNodeURI)
    const parent = identifier(association.destinationNodeURI)
    // The first place counts: a standard of Kedge stands in one.
    if (child && parent && !parents.has(child))
      parents.set(child, {
        parent,
        order: typeof association.sequenceNumber === 'number' ? association.sequenceNumber : undefined,
      })
  }
  return parents
}

/** Reads a CASE package. Items are known by their identifiers; whoever keeps them gives them others. */
export function readCase(text: string): ReadStandards {
  let file: unknown
  try {
    file = JSON.parse(text)
  } catch {
    return { problems: ['This is not a CASE file: it is not JSON.'] }
  }
  if (!isObject(file) || !isObject(file.CFDocument) || !Array.isArray(file.CFItems))
    return { problems: ['This is not a CASE package: it needs a CFDocument and CFItems.'] }
  if (file.CFItems.length > limits.standards)
    return {
      problems: [
        `This package has ${file.CFItems.length} items; at most ${limits.standards} can be read at once.`,
      ],
    }
  const read = file.CFItems.map((item, i) => readItem(item, i + 1))
  const problems = read.filter((item) => typeof item === 'string')
  const items = read.filter((item) => typeof item !== 'string')
  const known = new Map<string, Item>()
  for (const item of items) {
    if (known.has(item.id))
      problems.push(`${standardName(item)} appears twice, with the identifier ${item.id}.`)
    known.set(item.id, item)
  }
  if (items.length === 0 && problems.length === 0) problems.push('There are no items in this package.')
  const document = file.CFDocument
  const own = textOf(document.identifier, limits.key)
  const parents = readParents(listOf(file.CFAssociations))
  const standards = [...items]
    .sort((a, b) => (parents.get(a.id)?.order ?? a.order) - (parents.get(b.id)?.order ?? b.order))
    .map(({ id, code, statement, years }): Standard => {
      const parent = parents.get(id)?.parent
      const parentId = parent === undefined || parent === own ? null : parent
      if (parentId !== null && !known.has(parentId))
        problems.push(`${code ?? statement} stands under ${parentId}, which is not in the file.`)
      return { id, parentId, code, statement, years, source: id }
    })
  const { placed, left } = inTree(standards)
  for (const standard of left)
    if (known.has(standard.parentId ?? '')) problems.push(`${standardName(standard)} stands under itself.`)
  if (problems.length > 0) return { problems: [...new Set(problems)] }
  return {
    set: {
      name: textOf(document.title, limits.name).slice(0, limits.name) || 'Learning standards',
      source: own || null,
      standards: placed.map((p) => p.standard),
    },
  }
}

/**
 * Writes a set as a CASE package. What came from elsewhere keeps the identifier it has there.
 * @param set with its own identifier, for one that came from nowhere
 * @param about who publishes it, and when it was written, ISO 8601
 */
export function writeCase(
  { id, name, source, standards }: StandardSet & { readonly id: string },
  about: { readonly creator: string; readonly at: string },
): string {
  const uri = (of: string) => `urn:uuid:${of}`
  const published = new Map(standards.map((s) => [s.id, s.source ?? s.id]))
  const own = source ?? id
  const link = (of: string, title: string) => ({ title, identifier: of, uri: uri(of) })
  const document = link(own, name)
  return JSON.stringify(
    {
      CFDocument: {
        identifier: own,
        uri: uri(own),
        creator: about.creator,
        title: name,
        lastChangeDateTime: about.at,
        CFPackageURI: document,
      },
      CFItems: standards.map((s) => ({
        identifier: published.get(s.id),
        uri: uri(published.get(s.id) ?? s.id),
        CFDocumentURI: document,
        fullStatement: s.statement,
        ...(s.code === null ? {} : { humanCodingScheme: s.code }),
        ...(s.years.length === 0 ? {} : { educationLevel: s.years }),
        lastChangeDateTime: about.at,
      })),
      CFAssociations: standards.map((s, i) => {
        const of = published.get(s.id) ?? s.id
        const parent = s.parentId === null ? own : (published.get(s.parentId) ?? own)
        return {
          identifier: `${of}-child`,
          uri: `${uri(of)}-child`,
          associationType: 'isChildOf',
          sequenceNumber: i + 1,
          originNodeURI: link(of, standardName(s)),
          destinationNodeURI: link(parent, parent === own ? name : parent),
          lastChangeDateTime: about.at,
        }
      }),
    },
    null,
    2,
  )
}
