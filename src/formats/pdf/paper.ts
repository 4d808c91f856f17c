import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import PDFDocument from 'pdfkit'

const folder = join(process.cwd(), 'node_modules/@expo-google-fonts/atkinson-hyperlegible-next')
const loaded = new Map<string, Buffer>()

function fontFile(path: string): Buffer {
  const known = loaded.get(path)
  if (known) return known
  const bytes = readFileSync(join(folder, path))
  loaded.set(path, bytes)
  return bytes
}

/** The chart's colours, as on screen. */
export const ink = '#14304a'
export const muted = '#536a7b'
export const rule = '#d5dde1'
export const shoal = '#eef5f8'

export const margin = 54
export const pageWidth = 595.28
export const pageHeight = 841.89
export const textWidth = pageWidth - 2 * margin

/** An A4 document, tagged for screen readers, with Kedge's typeface embedded as `regular` and `bold`. Pages are added by the caller. */
export function openPaper(title: string, language: string): PDFKit.PDFDocument {
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
  doc.registerFont('regular', fontFile('400Regular/AtkinsonHyperlegibleNext_400Regular.ttf'))
  doc.registerFont('bold', fontFile('700Bold/AtkinsonHyperlegibleNext_700Bold.ttf'))
  return doc
}

/** Draws what is not part of the text: lines, page numbers, marks across the page. Screen readers pass over it. */
export function artifact(
  doc: PDFKit.PDFDocument,
  draw: () => void,
  type: 'Layout' | 'Pagination' = 'Layout',
): void {
  doc.markContent('Artifact', { type })
  draw()
  doc.endMarkedContent()
}
