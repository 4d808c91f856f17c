import type { PDFDocumentLoadingTask, PDFPageProxy } from 'pdfjs-dist'

/** Begins to load a document; what it answers must be destroyed. */
export async function openPdf(address: string): Promise<PDFDocumentLoadingTask> {
  const pdfjs = await import('pdfjs-dist')
  pdfjs.GlobalWorkerOptions.workerSrc = new URL(
    'pdfjs-dist/build/pdf.worker.min.mjs',
    import.meta.url,
  ).toString()
  return pdfjs.getDocument({ url: address, isEvalSupported: false })
}

/** A line of text; lengths are shares of the page's width and height from its upper left corner. */
export interface PdfLine {
  readonly page: number
  readonly text: string
  readonly x: number
  readonly y: number
  readonly height: number
}

async function linesOf(drawn: PDFPageProxy, page: number): Promise<readonly PdfLine[]> {
  const viewport = drawn.getViewport({ scale: 1 })
  const { items } = await drawn.getTextContent()
  const pieces = items.flatMap((item) => {
    if (!('str' in item) || item.str.trim() === '') return []
    const [, , , , left = 0, baseline = 0] = item.transform as readonly number[]
    const [x = 0, y = 0] = viewport.convertToViewportPoint(left, baseline) as readonly number[]
    const height = item.height / viewport.height
    return [{ page, text: item.str, x: x / viewport.width, y: y / viewport.height - height, height }]
  })
  const lines: PdfLine[] = []
  for (const piece of pieces.sort((a, b) => a.y - b.y || a.x - b.x)) {
    const last = lines.at(-1)
    if (last && Math.abs(last.y - piece.y) < 0.5 * Math.max(last.height, piece.height))
      lines[lines.length - 1] =
        piece.x < last.x
          ? { ...last, text: `${piece.text} ${last.text}`, x: piece.x }
          : { ...last, text: `${last.text} ${piece.text}` }
    else lines.push(piece)
  }
  return lines
}

/** The lines of text of all pages, from above to below; scans and photos have none. */
export async function readPdfLines(address: string): Promise<readonly PdfLine[]> {
  const task = await openPdf(address)
  try {
    const pdf = await task.promise
    const numbers = Array.from({ length: pdf.numPages }, (_, i) => i + 1)
    const pages = await Promise.all(numbers.map(async (n) => linesOf(await pdf.getPage(n), n)))
    return pages.flat()
  } finally {
    await task.destroy()
  }
}
