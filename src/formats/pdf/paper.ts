import { setImmediate } from 'node:timers/promises'
import PDFDocument from 'pdfkit'
import { fontFile, isPlain, runsOf, type Family, type Weight } from './fonts'
import { wrap } from './wrap'

/** The chart's colours, as on screen. */
export const ink = '#14304a'
export const muted = '#536a7b'
export const rule = '#d5dde1'
export const shoal = '#eef5f8'

/** A4 in points, and the sheet's margin. */
export const pageWidth = 595.28
export const pageHeight = 841.89
export const margin = 54
export const textWidth = pageWidth - 2 * margin

/** The bytes of a stream. They come in very small pieces, which are joined on the way so as not to weigh on memory. */
export function gathered(doc: PDFKit.PDFDocument): Promise<Buffer> {
  const joined: Buffer[] = []
  let pieces: Buffer[] = []
  const join = () => {
    joined.push(Buffer.concat(pieces))
    pieces = []
  }
  return new Promise((resolve, reject) => {
    doc.on('data', (piece: Buffer) => {
      pieces.push(piece)
      if (pieces.length === 1000) join()
    })
    doc.on('end', () => {
      join()
      resolve(Buffer.concat(joined))
    })
    doc.on('error', reject)
  })
}

/** How text looks; size in points. */
export interface Style {
  readonly font: Weight
  readonly size: number
  readonly colour: string
}

type Tag = PDFKit.PDFStructureElement & { dictionary: { data: Record<string, unknown> } }

interface CellOf {
  /** What a head is the head of. */
  readonly scope?: 'Row' | 'Column'
  /** Over how many columns it goes. */
  readonly columns?: number
  /** What a screen reader says in place of what is drawn. */
  readonly actual?: string
}

const written = {}

// One line needs no measuring: the package uses these two only for underlines and links.
const oneLine = { lineBreak: false, textWidth: 0, wordCount: 0 } as PDFKit.Mixins.TextOptions

/**
 * An A4 document, tagged for screen readers, with Kedge's typeface embedded. Pages are added by the caller; what is
 * drawn belongs to the tag it is drawn in. Lengths are points, measured from the upper left corner.
 */
export class Paper {
  readonly doc: PDFKit.PDFDocument
  private parent: PDFKit.PDFStructureElement
  private readonly root: PDFKit.PDFStructureElement
  private tags: Tag[] = []
  private readonly registered = new Set<string>()
  private readonly widths = new Map<string, Map<string, number>>()
  private readonly bytes: Promise<Buffer>

  constructor(title: string, language: string) {
    const doc = new PDFDocument({
      size: 'A4',
      margin,
      autoFirstPage: false,
      tagged: true,
      pdfVersion: '1.7',
      // The types of the package do not know this subset yet.
      ...({ subset: 'PDF/UA' } as object),
      lang: language,
      displayTitle: true,
      info: { Title: title, Creator: 'Kedge', Producer: 'Kedge' },
    })
    for (const weight of ['regular', 'bold'] as const) doc.registerFont(weight, fontFile('main', weight))
    this.bytes = gathered(doc)
    this.doc = doc
    this.root = doc.struct('Document')
    this.parent = this.root
    doc.addStructure(this.root)
  }

  /** A tag that holds other tags: `within('Table', () => within('TR', …))`. */
  within(type: string, draw: () => void, options: PDFKit.Mixins.StructureElementOptions = {}): void {
    const element = this.add(this.doc.struct(type, options))
    const outer = this.parent
    this.parent = element
    draw()
    this.parent = outer
    element.end()
  }

  /**
   * A part that is finished when it ends, such as one of many cards. Its tags are in the file by then; all that the
   * page tree still needs of them is their number, so what they held is let go of, and memory stays flat.
   */
  part(title: string, draw: () => void): void {
    const before = this.tags
    this.tags = []
    this.within('Sect', draw, { title })
    for (const tag of this.tags.slice(1)) tag.dictionary.data = written
    this.tags = before
  }

  /** A cell of a table, with contents. */
  cell(type: 'TH' | 'TD', draw: () => void, { scope, columns, actual }: CellOf = {}): void {
    // The types of the package do not know the scope yet.
    const options = { ...(scope ? { scope } : {}), ...(actual === undefined ? {} : { actual }) } as object
    const element = this.doc.struct(type, options, draw) as Tag
    if (columns) element.dictionary.data.A = { O: 'Table', ColSpan: columns }
    this.add(element)
  }

  /** Lines of one text, one under the other. Each ends with a blank, so that no reader joins its last word to the next. */
  lines(texts: readonly string[], left: number, top: number, step: number, style: Style): void {
    texts.forEach((text, i) =>
      this.write(i < texts.length - 1 ? `${text} ` : text, left, top + i * step, style),
    )
  }

  /** A tag with contents. `actual` is what a screen reader says in place of what is drawn. */
  tag(type: string, draw: () => void, actual?: string): void {
    this.add(this.doc.struct(type, actual === undefined ? {} : { actual }, draw))
  }

  private add(element: PDFKit.PDFStructureElement): PDFKit.PDFStructureElement {
    this.parent.add(element)
    this.tags.push(element as Tag)
    return element
  }

  /** Draws what is not part of the text: lines, page numbers, marks across the page. Screen readers pass over it. */
  artifact(draw: () => void, type: 'Layout' | 'Pagination' = 'Layout'): void {
    this.doc.markContent('Artifact', { type })
    draw()
    this.doc.endMarkedContent()
  }

  /** A hairline across the text's width. */
  line(top: number, width: number, colour: string): void {
    this.artifact(() =>
      this.doc
        .moveTo(margin, top)
        .lineTo(margin + textWidth, top)
        .lineWidth(width)
        .strokeColor(colour)
        .stroke(),
    )
  }

  /** Sets font, size and colour for what the document draws next. */
  use(style: Style): PDFKit.PDFDocument {
    return this.doc.font(style.font).fontSize(style.size).fillColor(style.colour)
  }

  /** The name of a typeface in the document, which it holds once it is used. */
  private fontOf(family: Family, weight: Weight): string {
    if (family === 'main') return weight
    const name = `${family} ${weight}`
    if (!this.registered.has(name)) this.doc.registerFont(name, fontFile(family, weight))
    this.registered.add(name)
    return name
  }

  /** One line of text, each run of it in a typeface that has its letters. */
  write(text: string, left: number, top: number, style: Style): void {
    if (isPlain(text)) return void this.use(style).text(text, left, top, oneLine)
    let x = left
    for (const run of runsOf(text)) {
      this.use(style).font(this.fontOf(run.family, style.font)).text(run.text, x, top, oneLine)
      if (run.text.length < text.length) x += this.doc.widthOfString(run.text)
    }
  }

  /** A text as lines of a width, broken within a word only where the word is wider. */
  wrapped(text: string, width: number, style: Style): readonly string[] {
    return wrap(text, width, (words) => this.widthOf(words, style))
  }

  /** One line of text that ends at `right`, smaller where it would be wider than it may be. */
  writeFitting(text: string, right: number, top: number, width: number, style: Style): void {
    const wide = this.widthOf(text, style)
    const size = wide > width ? Math.max(5, (style.size * width) / wide) : style.size
    this.writeTo(text, right, top + (style.size - size), { ...style, size })
  }

  /** One line of text that is cut, with an ellipsis, where it would be too wide. */
  writeWithin(text: string, left: number, top: number, width: number, style: Style): void {
    let shown = text
    while (shown !== '' && this.widthOf(shown === text ? text : `${shown}…`, style) > width)
      shown = [...shown].slice(0, -1).join('')
    this.write(shown === text ? text : `${shown.trimEnd()}…`, left, top, style)
  }

  /** One line of text that ends at `right`. */
  writeTo(text: string, right: number, top: number, style: Style): void {
    this.write(text, right - this.widthOf(text, style), top, style)
  }

  /** The width of a line of text; those of short texts are remembered, since a school's words return. */
  widthOf(text: string, style: Style): number {
    const key = `${style.font} ${style.size}`
    const known = this.widths.get(key) ?? new Map<string, number>()
    this.widths.set(key, known)
    const width = known.get(text)
    if (width !== undefined) return width
    const measured = isPlain(text) ? this.measure(text, style.font, style) : this.measureRuns(text, style)
    if (text.length < 24) known.set(text, measured)
    return measured
  }

  private measure(text: string, font: string, style: Style): number {
    return this.doc.font(font).fontSize(style.size).widthOfString(text)
  }

  private measureRuns(text: string, style: Style): number {
    return runsOf(text).reduce(
      (sum, run) => sum + this.measure(run.text, this.fontOf(run.family, style.font), style),
      0,
    )
  }

  /** Lets what is written so far flow out of the document, and others have their turn. */
  async pause(): Promise<void> {
    await setImmediate()
  }

  /** Ends the document. */
  async end(): Promise<Buffer> {
    this.root.end()
    this.doc.end()
    return this.bytes
  }
}
