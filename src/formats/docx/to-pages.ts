import { isTag, isText, type AnyNode, type Element } from 'domhandler'
import { textContent } from 'domutils'
import { parseDocument } from 'htmlparser2'
import type { Content, ContentTable, TableCell } from 'pdfmake/interfaces'
import { runsOf } from '@/formats/pdf/fonts'
import { labelMarks } from './numbering'

export interface Picture {
  /** As a data address. */
  readonly address: string
  /** In pixels. */
  readonly width: number
  readonly height: number
}

/** How text looks that stands inside of others. */
interface Look {
  readonly bold?: boolean
  readonly italics?: boolean
  readonly decoration?: 'underline' | 'lineThrough'
  readonly sup?: true
  readonly sub?: true
}

const looks: Readonly<Record<string, Look>> = {
  strong: { bold: true },
  em: { italics: true },
  u: { decoration: 'underline' },
  s: { decoration: 'lineThrough' },
  sup: { sup: true },
  sub: { sub: true },
}

/** Sizes of the six heads, in points. */
const heads = [18, 15, 13, 12, 11, 11] as const
/** A picture's pixel in points. */
const pixel = 0.75
const indent = 20

interface Room {
  readonly width: number
  readonly height: number
}

/** The text and pictures of a document as the parts of pages. */
export function pagesOf(html: string, pictures: readonly Picture[], room: Room): Content[] {
  return blocks(parseDocument(html).children, { pictures, room })
}

interface Around {
  readonly pictures: readonly Picture[]
  readonly room: Room
}

const isBlock = (node: AnyNode) => isTag(node) && /^(p|h[1-6]|table|ul|ol|li|div)$/.test(node.name)

/** Parts one below the other; text that stands among them is a paragraph. */
function blocks(nodes: readonly AnyNode[], around: Around): Content[] {
  const made: Content[] = []
  let loose: AnyNode[] = []
  const paragraphOfLoose = () => {
    if (loose.length > 0) made.push(...paragraph(loose, around, {}))
    loose = []
  }
  for (const node of nodes) {
    if (!isBlock(node)) loose.push(node)
    else {
      paragraphOfLoose()
      made.push(...block(node as Element, around))
    }
  }
  paragraphOfLoose()
  return made
}

function block(node: Element, around: Around): Content[] {
  const head = /^h([1-6])$/.exec(node.name)
  if (head) {
    const fontSize = heads[Number(head[1]) - 1] ?? 11
    return paragraph(node.children, around, { bold: true, fontSize, headlineLevel: Number(head[1]) })
  }
  if (node.name === 'table') return [table(node, around)]
  if (node.name === 'ul' || node.name === 'ol') {
    const items = node.children.filter(isTag).map((item) => ({ stack: blocks(item.children, around) }))
    return [node.name === 'ul' ? { ul: items, margin: [0, 0, 0, 4] } : { ol: items, margin: [0, 0, 0, 4] }]
  }
  return paragraph(node.children, around, {})
}

const label = new RegExp(`^${labelMarks.level}(\\d)${labelMarks.label}(.*?)${labelMarks.end}`)

/** One paragraph: its text, the pictures in it below that, and a list's label before both. */
function paragraph(nodes: readonly AnyNode[], around: Around, style: object): Content[] {
  const { text, images } = inline(nodes, around, {})
  const first = text.map((t) => t.text).join('')
  const listed = label.exec(first)
  const body: Content[] = []
  const rest = listed ? without(text, listed[0].length) : text
  if (rest.some((t) => t.text.trim() !== '')) body.push({ text: [...rest], ...style, margin: [0, 0, 0, 4] })
  body.push(...images)
  if (!listed) return body.length > 0 ? body : [{ text: ' ', fontSize: 6 }]
  const level = Number(listed[1])
  return [
    {
      columns: [
        { width: indent + 4, text: listed[2] ?? '', ...style },
        { width: '*', stack: body.length > 0 ? body : [{ text: ' ' }] },
      ],
      margin: [level * indent, 0, 0, 0],
    },
  ]
}

type Piece = Look & { readonly text: string; readonly font: string }

/** Texts without their first so many characters. */
function without(pieces: readonly Piece[], characters: number): readonly Piece[] {
  let left = characters
  return pieces.flatMap((piece) => {
    const cut = Math.min(left, piece.text.length)
    left -= cut
    return cut === piece.text.length ? [] : [{ ...piece, text: piece.text.slice(cut) }]
  })
}

function inline(
  nodes: readonly AnyNode[],
  around: Around,
  look: Look,
): { readonly text: readonly Piece[]; readonly images: readonly Content[] } {
  const text: Piece[] = []
  const images: Content[] = []
  const add = (words: string) => {
    for (const line of words.split(/(\n)/))
      if (line === '\n') text.push({ ...look, text: '\n', font: 'main' })
      else if (line !== '')
        for (const run of runsOf(line)) text.push({ ...look, text: run.text, font: run.family })
  }
  for (const node of nodes) {
    if (isText(node)) add(node.data)
    else if (isTag(node) && node.name === 'br') add('\n')
    else if (isTag(node) && node.name === 'img') images.push(image(node, around))
    else if (isTag(node)) {
      const inner = inline(node.children, around, { ...look, ...looks[node.name] })
      text.push(...inner.text)
      images.push(...inner.images)
    }
  }
  return { text, images }
}

/** A picture as large as it is, but no larger than the page; what cannot be drawn says so. */
function image(node: Element, { pictures, room }: Around): Content {
  const picture = pictures[Number(node.attribs.src)]
  if (!picture) return { text: '[A picture that cannot be shown here]', italics: true, margin: [0, 2, 0, 6] }
  const [width, height] = [picture.width * pixel, picture.height * pixel]
  const scale = Math.min(1, room.width / width, room.height / height)
  return { image: picture.address, width: width * scale, margin: [0, 2, 0, 6] }
}

const span = (node: Element, name: string) => Math.min(60, Math.max(1, Number(node.attribs[name] ?? 1) || 1))

function table(node: Element, around: Around): ContentTable | Content {
  const rows = descendants(node, 'tr')
  const widths = rows.map((row) => cellsOf(row).reduce((sum, cell) => sum + span(cell, 'colspan'), 0))
  const columns = Math.min(60, Math.max(0, ...widths))
  if (columns === 0) return { text: textContent(node) }
  const inner = { ...around, room: { ...around.room, width: around.room.width / columns - 10 } }
  const body: TableCell[][] = rows.map(() => [])
  const taken = new Set<string>()
  rows.forEach((row, y) => {
    let x = 0
    for (const cell of cellsOf(row)) {
      while (taken.has(`${y} ${x}`)) x++
      if (x >= columns) break
      const colSpan = Math.min(span(cell, 'colspan'), columns - x)
      const rowSpan = Math.min(span(cell, 'rowspan'), rows.length - y)
      for (let dy = 0; dy < rowSpan; dy++)
        for (let dx = 0; dx < colSpan; dx++) {
          taken.add(`${y + dy} ${x + dx}`)
          const into = body[y + dy]
          if (into) into[x + dx] = {}
        }
      const into = body[y]
      if (into) into[x] = { stack: blocks(cell.children, inner), colSpan, rowSpan }
      x += colSpan
    }
  })
  for (const row of body) for (let x = 0; x < columns; x++) row[x] ??= {}
  return {
    table: { body, widths: Array.from({ length: columns }, () => '*') },
    layout: { hLineWidth: () => 0.5, vLineWidth: () => 0.5 },
    margin: [0, 2, 0, 8],
  }
}

const cellsOf = (row: Element) => row.children.filter(isTag).filter((c) => c.name === 'td' || c.name === 'th')

/** The rows of a table, not those of tables inside of it. */
function descendants(node: Element, name: string): readonly Element[] {
  return node.children
    .filter(isTag)
    .flatMap((c) => (c.name === name ? [c] : c.name === 'table' ? [] : descendants(c, name)))
}
