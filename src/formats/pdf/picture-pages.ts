import PDFDocument from 'pdfkit'
import { gathered } from './paper'

/** What stays free around a picture, in points. */
const edge = 18

export interface PagePicture {
  /** JPEG. */
  readonly bytes: Buffer
  /** In pixels. */
  readonly width: number
  readonly height: number
}

/**
 * Pictures as the pages of one document: A4, upright or across as the picture is, each as large as the page lets it.
 * @param pictures are asked for one after the other, so that no more than one is held
 */
export async function picturePages(
  title: string,
  pictures: AsyncIterable<PagePicture>,
): Promise<{ readonly bytes: Buffer; readonly pageCount: number }> {
  const doc = new PDFDocument({
    autoFirstPage: false,
    info: { Title: title, Creator: 'Kedge', Producer: 'Kedge' },
  })
  const bytes = gathered(doc)
  let pageCount = 0
  for await (const { bytes: picture, width, height } of pictures) {
    doc.addPage({ size: 'A4', layout: width > height ? 'landscape' : 'portrait', margin: 0 })
    doc.image(picture, edge, edge, {
      fit: [doc.page.width - 2 * edge, doc.page.height - 2 * edge],
      align: 'center',
      valign: 'center',
    })
    pageCount++
  }
  doc.end()
  return { bytes: await bytes, pageCount }
}
