import render from 'dom-serializer'
import { Element, isTag, type ChildNode, type Document } from 'domhandler'
import { findOne, getElementsByTagName } from 'domutils'
import { parseDocument } from 'htmlparser2'

/** How a level of a list is numbered (ISO/IEC 29500-1, 17.9). */
interface Level {
  readonly format: string
  /** "%1." or "(%2)": the number of each level by its place. */
  readonly text: string
  readonly start: number
}

interface List {
  readonly levels: readonly Level[]
  /** Lists that go on with each other's numbers share it. */
  readonly counter: string
}

const parsed = (xml: string): Document => parseDocument(xml, { xmlMode: true })
const all = (name: string, within: Document | Element) => getElementsByTagName(name, within, true)
const children = (node: Element) => node.children.filter(isTag)
const child = (node: Element | undefined, name: string) => node && children(node).find((c) => c.name === name)
const value = (node: Element | undefined, name: string) => child(node, name)?.attribs['w:val']

const letters = (n: number): string =>
  String.fromCharCode(97 + ((n - 1) % 26)).repeat(1 + Math.floor((n - 1) / 26))
const romans = [
  [1000, 'm'],
  [900, 'cm'],
  [500, 'd'],
  [400, 'cd'],
  [100, 'c'],
  [90, 'xc'],
  [50, 'l'],
  [40, 'xl'],
  [10, 'x'],
  [9, 'ix'],
  [5, 'v'],
  [4, 'iv'],
  [1, 'i'],
] as const
function roman(n: number): string {
  let left = n
  return romans
    .map(([worth, sign]) => {
      const times = Math.floor(left / worth)
      left %= worth
      return sign.repeat(times)
    })
    .join('')
}

/** A number as its format writes it. */
function written(n: number, format: string): string {
  if (n < 1 || n > 3999) return String(n)
  switch (format) {
    case 'lowerLetter':
      return letters(n)
    case 'upperLetter':
      return letters(n).toUpperCase()
    case 'lowerRoman':
      return roman(n)
    case 'upperRoman':
      return roman(n).toUpperCase()
    case 'decimalZero':
      return String(n).padStart(2, '0')
    default:
      return String(n)
  }
}

const levelOf = (node: Element): Level => ({
  format: value(node, 'w:numFmt') ?? 'decimal',
  text: value(node, 'w:lvlText') ?? '',
  start: Number(value(node, 'w:start') ?? 1),
})

/** The lists of a file by their ids. */
function listsIn(xml: string): ReadonlyMap<string, List> {
  const numbering = parsed(xml)
  const abstract = new Map(
    all('w:abstractNum', numbering).map((node) => [
      node.attribs['w:abstractNumId'] ?? '',
      children(node)
        .filter((c) => c.name === 'w:lvl')
        .map(levelOf),
    ]),
  )
  return new Map(
    all('w:num', numbering).map((node): [string, List] => {
      const of = value(node, 'w:abstractNumId') ?? ''
      const id = node.attribs['w:numId'] ?? ''
      const levels = [...(abstract.get(of) ?? [])]
      const overrides = children(node).filter((c) => c.name === 'w:lvlOverride')
      for (const override of overrides) {
        const at = Number(override.attribs['w:ilvl'] ?? 0)
        const own = child(override, 'w:lvl')
        const level = own ? levelOf(own) : levels[at]
        const start = value(override, 'w:startOverride')
        if (level) levels[at] = start === undefined ? level : { ...level, start: Number(start) }
      }
      return [id, { levels, counter: overrides.length > 0 ? `own ${id}` : `of ${of}` }]
    }),
  )
}

interface Numbered {
  readonly list: string
  readonly level: number
}

/** Which list a style numbers its paragraphs with. */
function stylesIn(xml: string): ReadonlyMap<string, Numbered> {
  return new Map(
    all('w:style', parsed(xml)).flatMap((style) => {
      const of = child(child(style, 'w:pPr'), 'w:numPr')
      const list = value(of, 'w:numId')
      const id = style.attribs['w:styleId']
      return id === undefined || list === undefined
        ? []
        : [[id, { list, level: Number(value(of, 'w:ilvl') ?? 0) }] as const]
    }),
  )
}

/** Marks that stand round the label of a list in the text: no text has them. */
export const labelMarks = { level: '\uE000', label: '\uE001', end: '\uE002' } as const
const marked = /[\uE000-\uE002]/g

const run = (words: string) =>
  new Element('w:r', {}, [
    ...parsed(`<w:t xml:space="preserve">${words.replace(/&/g, '&amp;').replace(/</g, '&lt;')}</w:t>`)
      .children,
  ] as ChildNode[])

/**
 * Writes the numbers and letters of lists into the text, as they are printed: those who read the file as HTML lose
 * where a list goes on and what its labels look like.
 * @param files the XML of the document, its numbering and its styles
 * @returns the document's XML with labels between marks in place of list properties
 */
export function writeLabels(files: {
  readonly document: string
  readonly numbering: string
  readonly styles: string
}): string {
  const document = parsed(files.document.replace(marked, ''))
  const lists = listsIn(files.numbering)
  const styles = stylesIn(files.styles)
  const counted = new Map<string, number[]>()
  for (const paragraph of all('w:p', document)) {
    const properties = child(paragraph, 'w:pPr')
    const own = child(properties, 'w:numPr')
    const ofStyle = styles.get(value(properties, 'w:pStyle') ?? '')
    const list = value(own, 'w:numId') ?? ofStyle?.list
    const level = Number(value(own, 'w:ilvl') ?? ofStyle?.level ?? 0)
    const label = list === undefined || list === '0' ? undefined : next(lists.get(list), level, counted)
    if (!properties || label === undefined) continue
    properties.children = properties.children.filter((c) => c !== own)
    const { level: first, label: second, end } = labelMarks
    const at = paragraph.children.indexOf(properties) + 1
    paragraph.children.splice(at, 0, run(`${first}${level}${second}${label}${end}`))
  }
  return render(document, { xmlMode: true, encodeEntities: 'utf8' })
}

/** Counts one on in a list and says how that is written; undefined where there is no such level. */
function next(list: List | undefined, level: number, counted: Map<string, number[]>): string | undefined {
  const own = list?.levels[level]
  if (!list || !own) return undefined
  const numbers = counted.get(list.counter) ?? []
  counted.set(list.counter, numbers)
  numbers[level] = (numbers[level] ?? own.start - 1) + 1
  // A new number begins the levels below it again.
  numbers.length = level + 1
  if (own.format === 'bullet') return '•'
  if (own.format === 'none') return ''
  return own.text.replace(/%(\d)/g, (_, place: string) => {
    const at = Number(place) - 1
    const of = list.levels[at]
    return written(numbers[at] ?? of?.start ?? 1, of?.format ?? 'decimal')
  })
}

/** What a document holds that cannot be taken over. */
export function leftOut(xml: string): readonly string[] {
  const document = parsed(xml)
  const has = (name: string) => findOne((e) => e.name === name, document.children, true) !== null
  return [has('m:oMath') && 'formulas', has('c:chart') && 'charts', has('wps:wsp') && 'drawings'].filter(
    (words) => typeof words === 'string',
  )
}
